/** A new worker that reads drawings; the bundler wants to see where its script lies. */
export const startReader = () => new Worker(new URL('../../../workers/drawing.worker.ts', import.meta.url), { type: 'module' })
