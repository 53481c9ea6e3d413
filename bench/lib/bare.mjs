// A bare Express server that answers every JSON POST or PUT with JSON of a fixed size and does nothing else: what claims are
// held against. PORT and ANSWER_BYTES come from the environment.
import express from 'express'

const answer = { filler: 'x'.repeat(Math.max(0, Number(process.env.ANSWER_BYTES) - 13)) }
const app = express()
app.use(express.json())
app.post('/{*path}', (_req, res) => res.json(answer))
app.put('/{*path}', (_req, res) => res.json(answer))
app.get('/healthz', (_req, res) => res.json({ ok: true }))
app.listen(Number(process.env.PORT), '127.0.0.1')
