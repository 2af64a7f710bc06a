import { readDrawing } from '@stone-tally/core'
import { XMLParser } from 'fast-xml-parser'
import { type Figure, median } from './record'

const SIZE = 40 * 1024 * 1024

/** Repeats what `line` makes until the text is as large as a file may be. */
function filled(head: string, line: (i: number) => string, foot: string): string {
  const parts = [head]
  let size = head.length
  for (let i = 0; size < SIZE; i++) {
    const next = line(i)
    parts.push(next)
    size += next.length
  }
  parts.push(foot)
  return parts.join('')
}
const x = (i: number) => (1000 + (i % 5000) * 1.5 + Math.sin(i)).toFixed(3)
const y = (i: number) => (5000 + Math.floor(i / 5000) * 2 + Math.cos(i)).toFixed(3)

const LINES = { of: 'splitting lines', limit: 30, alone: (text: string) => text.split(/\r\n|\r|\n/).length }
const XML = {
  of: 'parsing the XML into a tree',
  limit: 2,
  alone: (text: string) => new XMLParser({ ignoreAttributes: false, preserveOrder: true, parseTagValue: false }).parse(text).length as number,
}
const FILES = [
  {
    name: 'DXF of lines',
    ...LINES,
    text: () =>
      filled(
        '0\nSECTION\n2\nHEADER\n9\n$INSUNITS\n70\n6\n0\nENDSEC\n0\nSECTION\n2\nENTITIES\n',
        (i) =>
          `0\nTEXT\n8\nNOTES\n10\n${x(i)}\n20\n${y(i)}\n40\n0.25\n1\nsurvey ${i} ${'of the yard, to be kept '.repeat(4)}\n0\nLINE\n8\nL${i % 40}\n10\n${x(i)}\n20\n${y(i)}\n30\n0.0\n11\n${x(i + 1)}\n21\n${y(i + 1)}\n31\n0.0\n`,
        '0\nENDSEC\n0\nEOF\n',
      ),
  },
  {
    name: 'DXF of polylines',
    ...LINES,
    text: () =>
      filled(
        '0\nSECTION\n2\nENTITIES\n',
        (i) =>
          `0\nLWPOLYLINE\n8\nFACE\n90\n20\n70\n0\n${Array.from({ length: 20 }, (_, k) => `10\n${x(i * 20 + k)}\n20\n${y(i * 20 + k)}\n`).join('')}`,
        '0\nENDSEC\n0\nEOF\n',
      ),
  },
  {
    name: 'CSV of points',
    ...LINES,
    text: () => filled('point,northing,easting,elevation,code\n', (i) => `${i},${x(i)},${y(i)},9.652,C${i % 20000}\n`, ''),
  },
  {
    name: 'LandXML of points and alignments',
    ...XML,
    text: () =>
      filled(
        '<?xml version="1.0"?>\n<LandXML xmlns="http://www.landxml.org/schema/LandXML-1.2" version="1.2"><Units><Metric linearUnit="meter"/></Units>\n',
        (i) =>
          `<CgPoints><CgPoint name="P${i}">${y(i)} ${x(i)} 9.652</CgPoint></CgPoints>\n<Alignments><Alignment name="A${i}" length="10" staStart="0"><CoordGeom><Line><Start>${y(i)} ${x(i)}</Start><End>${y(i + 9)} ${x(i + 9)}</End></Line></CoordGeom></Alignment></Alignments>\n`,
        '</LandXML>\n',
      ),
  },
]

/** A file as large as is taken, read as a drawing, against what any reader must do with it. */
export function fileFigures(): Figure[] {
  return FILES.map(({ name, of, limit, alone, text }) => {
    const content = text()
    const times = (run: () => unknown, n: number) =>
      median(
        Array.from({ length: n }, () => {
          const began = performance.now()
          run()
          return performance.now() - began
        }),
      )
    const base = times(() => alone(content), 3)
    let found = ''
    const whole = times(() => {
      const drawing = readDrawing(content)
      found = drawing.ok ? `${drawing.value.lines.length} lines, ${drawing.value.points.length} points` : (drawing.problems[0]?.message ?? '')
    }, 1)
    return {
      name: `${name}, 40 MB read / ${of}`,
      value: whole / base,
      limit,
      over: 'at most',
      unit: '×',
      note: `${found}; ${(whole / 1000).toFixed(1)} and ${(base / 1000).toFixed(2)} s`,
    }
  })
}
