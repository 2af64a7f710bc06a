import { instrumentServer } from './server'

// Started by bin/start: the port comes as the first argument, the seed as the second. Says its port on one line.
const [port, seed] = process.argv.slice(2).map(Number)
instrumentServer(port || 0, seed || 1).then(
  (s) => console.log(s.port),
  (error) => {
    console.error(error instanceof Error ? error.message : error)
    process.exit(1)
  },
)
// Ends with whoever started it: an orphan would keep the port.
process.stdin.resume()
process.stdin.on('end', () => process.exit(0))
