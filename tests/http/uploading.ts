import type { UploadView } from '../../src/contract/files.ts'
import type { Problem } from '../../src/contract/problems.ts'
import type { Answer, Client, Harness } from './harness.ts'

/** What a file is brought for. */
export type AskedAim = {
  aim: 'group' | 'work' | 'task' | 'feedback'
  group?: string | null
  task?: string | null
  owner?: string | null
}

/** Begins an upload. */
export function beginUpload(
  client: Client,
  at: string,
  aim: AskedAim,
  { name, size, modified = 1 }: { name: string; size: number; modified?: number },
): Promise<Answer<UploadView & Problem>> {
  return client.post(`${at}/uploads`, { name, size, modified, ...aim })
}

/** Sends bytes of an upload from an offset on. */
export async function sendBytes(
  harness: Harness,
  client: Client,
  path: string,
  offset: number,
  bytes: Uint8Array,
): Promise<{ status: number; offset: number; problem: Problem | null }> {
  const response = await fetch(`${harness.address}${path}`, {
    method: 'PATCH',
    headers: {
      Origin: harness.address,
      Cookie: client.cookie,
      'Content-Type': 'application/offset+octet-stream',
      'Upload-Offset': String(offset),
    },
    body: bytes as Uint8Array<ArrayBuffer>,
  })
  const problem = response.status === 204 ? null : ((await response.json()) as Problem)
  return { status: response.status, offset: Number(response.headers.get('upload-offset')), problem }
}

/** Brings a whole file; gives the upload, or the problem that stood in its way. */
export async function bring(
  harness: Harness,
  client: Client,
  at: string,
  aim: AskedAim,
  name: string,
  content: string | Uint8Array,
): Promise<{ name: string; newVersion: boolean } | Problem> {
  const bytes = typeof content === 'string' ? new TextEncoder().encode(content) : content
  const begun = await beginUpload(client, at, aim, { name, size: bytes.length })
  if (begun.status !== 200) return begun.body
  const sent = await sendBytes(harness, client, `${at}/uploads/${begun.body.code}`, 0, bytes)
  return sent.problem ?? begun.body
}

/** A file as it is given out, with what says how. */
export async function download(
  harness: Harness,
  client: Client,
  path: string,
): Promise<{ status: number; text: string; headers: Headers }> {
  const response = await fetch(`${harness.address}${path}`, { headers: { Cookie: client.cookie } })
  return { status: response.status, text: await response.text(), headers: response.headers }
}
