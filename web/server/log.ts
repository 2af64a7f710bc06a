import pino from 'pino'

/**
 * The log of the process: a line of JSON each, to its output, where whoever started it keeps and rotates it. What a person typed or carries to
 * prove who they are is not in it.
 */
export const log = pino({
  // Tests are read by people; what they provoke on purpose is not shown between their lines.
  level: process.env.LOG_LEVEL ?? (process.env.NODE_ENV === 'test' ? 'silent' : 'info'),
  base: { process: process.pid },
  timestamp: pino.stdTimeFunctions.isoTime,
  redact: { paths: ['password', 'token', '*.password', '*.token', 'headers.cookie', '*.headers.cookie'], censor: '…' },
})
