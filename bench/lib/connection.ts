import { connect, type Socket } from 'node:net'

export interface RawAnswer {
  status: number
  body: string
  /** Milliseconds from the first byte sent to the last byte heard. */
  took: number
}

export interface Connection {
  /** Sends JSON and waits for the answer; opens the connection anew where the server has closed it meanwhile. */
  post(path: string, body: unknown, cookie: string): Promise<RawAnswer>
  put(path: string, body: unknown, cookie: string): Promise<RawAnswer>
  close(): void
}

/** Milliseconds after which an answer counts as lost. */
const PATIENCE = 60_000

/**
 * One kept-open HTTP/1.1 connection that sends one request at a time. Parses only what is needed, so that the
 * load costs as little as it can beside the server that is measured.
 */
export async function openConnection(port: number): Promise<Connection> {
  const host = `127.0.0.1:${port}`
  let socket = await opened(port)
  const send =
    (method: string) =>
    async (path: string, body: unknown, cookie: string): Promise<RawAnswer> => {
      const text = JSON.stringify(body)
      const request =
        `${method} ${path} HTTP/1.1\r\nHost: ${host}\r\nOrigin: http://${host}\r\nCookie: ${cookie}\r\n` +
        `Content-Type: application/json\r\nContent-Length: ${Buffer.byteLength(text)}\r\n\r\n${text}`
      // A server may close an idle connection in the moment in which a request is sent: sent again, as browsers do.
      for (let tries = 0; ; tries++) {
        if (socket.destroyed || !socket.writable) socket = await opened(port)
        try {
          return await exchange(socket, request)
        } catch (error) {
          if (tries === 2) throw error
        }
      }
    }
  return {
    post: send('POST'),
    put: send('PUT'),
    close: () => socket.destroy(),
  }
}

function opened(port: number): Promise<Socket> {
  return new Promise((resolve, reject) => {
    const socket = connect(port, '127.0.0.1')
    socket.setNoDelay(true)
    socket.once('error', reject)
    socket.once('connect', () => {
      socket.off('error', reject)
      // Closed while idle: noticed by the next request.
      socket.on('error', () => socket.destroy())
      resolve(socket)
    })
  })
}

function exchange(socket: Socket, request: string): Promise<RawAnswer> {
  return new Promise((resolve, reject) => {
    const sent = performance.now()
    let heard: Buffer = Buffer.alloc(0)
    const end = (done: () => void) => {
      clearTimeout(timer)
      socket.off('data', hear)
      socket.off('close', closed)
      done()
    }
    const hear = (part: Buffer) => {
      heard = heard.length === 0 ? part : Buffer.concat([heard, part])
      const answer = parsed(heard)
      if (answer) end(() => resolve({ ...answer, took: performance.now() - sent }))
    }
    const closed = () => end(() => reject(new Error('the connection was closed before the answer')))
    const timer = setTimeout(() => end(() => reject(new Error('no answer came'))), PATIENCE)
    socket.on('data', hear)
    socket.once('close', closed)
    socket.write(request)
  })
}

function parsed(heard: Buffer): { status: number; body: string } | null {
  const head = heard.indexOf('\r\n\r\n')
  if (head < 0) return null
  const header = heard.toString('latin1', 0, head)
  const length = Number(/content-length: (\d+)/i.exec(header)?.[1] ?? 0)
  if (heard.length < head + 4 + length) return null
  return { status: Number(header.slice(9, 12)), body: heard.toString('utf8', head + 4, head + 4 + length) }
}
