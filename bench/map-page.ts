import { type PadReading, padRaster, screedPlan } from '@stone-tally/core'
import { contoursOf, levelsFor, paintPadMap } from '../web/ui/drawing/pad-map'

const TOLERANCE = 0.005
const median = (list: number[]) => [...list].sort((a, b) => a - b)[Math.floor(list.length / 2)] as number

/** 1,000 stations by 5 lines of a pad that waves and slopes. */
function readings(): PadReading[] {
  const list: PadReading[] = []
  for (let i = 0; i < 1000; i++) {
    for (let j = 0; j < 5; j++) {
      const [station, offset] = [i * 0.3, -0.15 + j * 0.15]
      list.push({
        station,
        offset,
        deviation: 0.008 * Math.sin(station / 3) + 0.006 * Math.cos(offset * 7 + station / 11) + 0.0015 * Math.sin(i * 12.9898 + j * 78.233),
      })
    }
  }
  return list
}

;(globalThis as unknown as { run: () => unknown }).run = () => {
  const list = readings()
  const area = { from: 0, to: 299.7, front: -0.15, back: 0.45 }
  const levels = levelsFor(TOLERANCE)
  const canvas = document.createElement('canvas')
  canvas.width = 1000
  canvas.height = 190
  const g = canvas.getContext('2d') as CanvasRenderingContext2D
  const ink = { high: '#ffc61a', low: '#4a5156', line: '#14181b', ground: '#fbfaf6' }
  const all: number[] = []
  const alone: number[] = []
  const raster = padRaster(list, area, 334, 48)
  for (let turn = 0; turn < 25; turn++) {
    let start = performance.now()
    const made = padRaster(list, area, 334, 48)
    screedPlan(list, TOLERANCE)
    paintPadMap(g, made, levels, { width: 1000, height: 190 }, ink)
    // Reading a pixel makes sure that the painting is done.
    g.getImageData(0, 0, 1, 1)
    all.push(performance.now() - start)
    start = performance.now()
    contoursOf(raster, levels)
    alone.push(performance.now() - start)
  }
  return { ratio: median(all) / median(alone), all: median(all), alone: median(alone), readings: list.length }
}
