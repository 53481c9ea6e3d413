// A bare Express server for `bench:opening`: answers each request with as many bytes as its path names, and keeps a
// stream open where it is asked for one. PORT comes from the environment.
import express from 'express'

const app = express()
const filler = 'x'.repeat(4 * 1024 * 1024)
app.use(express.json())
app.get('/healthz', (_req, res) => res.json({ ok: true }))
app.get('/stream', (_req, res) => {
  res.writeHead(200, { 'Content-Type': 'text/event-stream' })
  res.write(':\n\n')
})
app.all('/bytes/:count', (req, res) => res.type('json').send(filler.slice(0, Number(req.params.count))))
app.listen(Number(process.env.PORT), '127.0.0.1')
