import { type EncodedOutput, fragmentMuxer } from '@green-mantle/core/encoding'
import type { PublishedSink } from '../listeners/rtmpConnection'
import { FragmentIngest } from './fragmentIngest'
import { LocalIngest } from './localIngest'

const application = 'from-here'

/** Takes every encode from its program, in the form in which it is handed over. */
export class EncodeIngest {
  private constructor(
    private readonly local: LocalIngest,
    private readonly fragments: FragmentIngest,
  ) {}

  static async open(): Promise<EncodeIngest> {
    const local = await LocalIngest.open()
    try {
      return new EncodeIngest(local, await FragmentIngest.open())
    } catch (error) {
      await local.close()
      throw error
    }
  }

  /** Where programs of this computer send to, each under a key that `expectProgram` gave. */
  get programAddress(): string {
    return this.local.addressOf(application)
  }

  /** Expects a program that sends by itself, and gives the key under which it is taken. */
  expectProgram(taker: () => PublishedSink | string): string {
    return this.local.expect(taker)
  }

  /** Expects an encode, and gives the address at which its program hands it over. */
  expectEncode(output: EncodedOutput, taker: () => PublishedSink | string): string {
    return output.muxer === fragmentMuxer
      ? this.fragments.expect(output, taker)
      : `${this.programAddress}/${this.local.expect(taker)}`
  }

  async close(): Promise<void> {
    await Promise.all([this.local.close(), this.fragments.close()])
  }
}
