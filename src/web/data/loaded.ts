/** Milliseconds after which code that did not arrive is asked for again. */
const AGAIN = 700

/**
 * Loads code of ours that is wanted only now; what does not arrive is asked for once more.
 * @throws what the second attempt failed with
 */
export async function loaded<T>(load: () => Promise<T>): Promise<T> {
  try {
    return await load()
  } catch {
    await new Promise((resolve) => setTimeout(resolve, AGAIN))
    return load()
  }
}
