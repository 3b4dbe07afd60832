import { newLimiter } from '@green-mantle/core/on-air'

declare const currentFrame: number
declare const sampleRate: number
declare function registerProcessor(name: string, processor: unknown): void
declare class AudioWorkletProcessor {
  readonly port: MessagePort
}

/** What one call of a worklet gives (W3C Web Audio), and how many of them make a block. */
const quantum = 128
const quantaABlock = 8
const blockFrames = quantum * quantaABlock
const full = 32_767

/** Takes both mixes, holds them under the ceiling, and hands them on in blocks; nothing is heard here. */
class Mixing extends AudioWorkletProcessor {
  private readonly limiters = [newLimiter(sampleRate), newLimiter(sampleRate)]
  private blocks = this.fresh()
  private filled = 0
  private first = 0
  private to: MessagePort | null = null

  constructor() {
    super()
    this.port.onmessage = ({ ports }) => {
      this.to = ports[0] ?? null
    }
  }

  private fresh(): [Int16Array, Int16Array] {
    return [new Int16Array(2 * blockFrames), new Int16Array(2 * blockFrames)]
  }

  process(inputs: Float32Array[][]): boolean {
    if (this.filled === 0) this.first = currentFrame
    for (const [mix, limiter] of this.limiters.entries()) {
      const [left, right = left] = inputs[mix] ?? []
      const block = this.blocks[mix] as Int16Array
      for (let index = 0; index < quantum; index += 1) {
        const limited = limiter(left?.[index] ?? 0, right?.[index] ?? 0)
        const at = 2 * (this.filled + index)
        block[at] = Math.round((limited[0] as number) * full)
        block[at + 1] = Math.round((limited[1] as number) * full)
      }
    }
    this.filled += quantum
    if (this.filled < blockFrames) return true
    const [live, archive] = this.blocks
    this.port.postMessage({ live: live.slice(), archive: archive.slice() })
    this.to?.postMessage({ frame: this.first, live, archive }, [live.buffer, archive.buffer])
    this.blocks = this.fresh()
    this.filled = 0
    return true
  }
}
registerProcessor('mixing', Mixing)
