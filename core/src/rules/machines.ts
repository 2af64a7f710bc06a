/** Plant a wall takes, by what it is needed for; whatever a company calls its own stands with the hire. */
export const MACHINES = {
  excavator: { title: 'Excavator', works: 'digs the trench' },
  crane: { title: 'Lifting machine', works: 'sets what no hand lifts' },
  plate: { title: 'Plate or roller', works: 'compacts pad and fill' },
  saw: { title: 'Saw', works: 'cuts units' },
} as const
export type MachineName = keyof typeof MACHINES
export const MACHINE_KINDS = Object.keys(MACHINES) as MachineName[]
