/** Proctor curve of the stone the demo builds with. */
export const CURVE = {
  name: 'crushed stone 0/22',
  source: 'laboratory sheet 31, drum 2',
  points: [
    { moisture: 5.2, dryDensity: 2021 },
    { moisture: 6.6, dryDensity: 2092 },
    { moisture: 8.1, dryDensity: 2118 },
    { moisture: 9.6, dryDensity: 2064 },
    { moisture: 10.4, dryDensity: 2019 },
  ],
  gs: 2.72,
}
