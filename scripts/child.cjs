// Loaded before a program that a start command supervises: it ends with whoever started it, however that ended, so that no orphan keeps the port.
process.on('disconnect', () => {
  setTimeout(() => process.exit(0), 5000).unref()
  process.kill(process.pid, 'SIGTERM')
})
