import { type CriticalPathInput, criticalPath, criticalPathInput, type TimedTask } from '../schedule'
import { defineCalculator, num } from './calculator'

export const criticalPathCalculator = defineCalculator<CriticalPathInput, { duration: number; tasks: TimedTask[] }>({
  name: 'critical-path',
  title: 'Critical path',
  purpose: 'Tasks that wait for each other: how long all of it takes, and which of them may slip by how much.',
  formula: 'start = the latest of what it waits for, with its lag; float = end − finish − the longest way from there to the end',
  source: 'Critical path method, finish to start.',
  schema: criticalPathInput as never,
  example: {
    tasks: [
      { id: 'dig', duration: 2 },
      { id: 'pad', duration: 1, after: [{ id: 'dig' }] },
      { id: 'stone', duration: 1 },
      { id: 'first', duration: 3, after: [{ id: 'pad', lag: 1 }, { id: 'stone' }] },
    ],
  },
  labels: {
    tasks: 'Tasks',
    'tasks.id': 'Name',
    'tasks.duration': 'Takes, days',
    'tasks.after': 'Waits for',
    'tasks.after.id': 'Name',
    'tasks.after.lag': 'and then, days',
    'tasks.notBefore': 'Not before day',
  },
  run: criticalPath,
  working: (_, o) => [
    ...o.tasks.slice(0, 20).map((t) => ({
      what: t.id,
      how: `day ${num(t.start)} to ${num(t.finish)}`,
      result: t.critical ? 'nothing to spare' : `may slip ${num(t.float)}`,
    })),
    ...(o.tasks.length > 20 ? [{ what: 'and so on', how: `${o.tasks.length - 20} more`, result: '' }] : []),
    { what: 'All of it', how: 'the latest finish', result: `${num(o.duration)} days` },
  ],
})
