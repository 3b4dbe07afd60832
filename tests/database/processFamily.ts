import { readFileSync } from 'node:fs'

/** The processes below one, itself included. */
export function familyOf(pid: number): number[] {
  const children = readFileSync(`/proc/${pid}/task/${pid}/children`, 'utf8').split(' ')
  return [pid, ...children.filter(Boolean).flatMap((child) => familyOf(Number(child)))]
}
