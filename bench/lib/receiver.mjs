// The bare side of the hand-ins: takes a body as it streams in, writes it to a file, flushes it, and says so.
import { createWriteStream } from 'node:fs'
import { open } from 'node:fs/promises'
import { createServer } from 'node:http'
import { join } from 'node:path'
import { pipeline } from 'node:stream/promises'

let files = 0
createServer(async (req, res) => {
  if (req.method === 'GET') {
    res.end('{}')
    return
  }
  const path = join(process.env.FOLDER, String(++files))
  await pipeline(req, createWriteStream(path))
  const file = await open(path, 'r+')
  await file.sync()
  await file.close()
  res.writeHead(204).end()
}).listen(Number(process.env.PORT), '127.0.0.1')
