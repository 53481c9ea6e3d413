/** Who sits again after something that went away is back, and who could not return. */
export interface Restored {
  seated: number
  out: { name: string; why: string }[]
}
