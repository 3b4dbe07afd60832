import { eachPart, isPart, type Part } from './parts'

const firstWordRules = {
  countedIn: 'characters',
  mostTitle: 100,
  mostDescription: 5000,
  mostTags: null,
  mostTagLength: null,
  audiences: ['public', 'unlisted', 'followers', 'practice'],
  thumbnail: { ratioWidth: 16, ratioHeight: 9, leastWidth: 640, mostBytes: 2_000_000 },
}
const firstShowWords = {
  description: '',
  category: '',
  tags: [],
  language: '',
  audience: 'public',
  thumbnail: null,
}
const firstConnection = {
  serverAddress: '',
  backupAddress: null,
  streamName: '',
  account: null,
  relayId: null,
  handOff: { mirrorsPicture: false, isMirroredBack: false, sound: 'our live mix' },
  path: { roundTripMilliseconds: null, lossPercent: null },
  words: {
    title: null,
    description: null,
    category: null,
    tags: null,
    language: null,
    audience: null,
    thumbnail: null,
    scheduledAt: null,
  },
  chatAddress: '',
  chatReadBy: '',
}

/** How a show ended where its start was done in each way. */
const endsWith: Record<string, string> = {
  'pressed on its page': 'pressed on its page',
  'by its program': 'by its program',
}

/** Version 2 had one line, no sound, and knew of a destination only what it accepts; what it lacked is frozen here. */
export function fromVersion2({ line, ...show }: Part): Part {
  const withRules = (rules: unknown) =>
    isPart(rules)
      ? {
          audioCodecs: ['aac', 'opus'],
          mostAudioChannels: 2,
          end: endsWith[String(rules.start)] ?? 'when the signal stops',
          key: { life: 'lasting', hours: null },
          chat: 'readable elsewhere',
          offersBackup: false,
          mostFed: 0,
          words: firstWordRules,
          ...rules,
        }
      : rules
  const asLine = (before: Part): Part => ({
    id: 'line',
    lowPercentile: 10,
    medium: null,
    dataCap: null,
    localNetwork: { linkKbps: 1_000_000, devices: [] },
    ...before,
    samples: eachPart(before.samples, (sample) => ({ retransmits: null, ...sample })),
  })
  return {
    ...show,
    sounds: [],
    mixSampleRateHz: 48_000,
    lines: [isPart(line) ? asLine(line) : line],
    lineId: 'line',
    words: firstShowWords,
    destinations: eachPart(show.destinations, (destination) => ({
      profile: null,
      ...firstConnection,
      ...destination,
      rules: withRules(destination.rules),
      renditions: eachPart(destination.renditions, (rendition) => ({
        // Version 2 took the codec from the protocol: WHIP carries Opus.
        audioCodec: destination.protocol === 'whip' ? 'opus' : 'aac',
        audioChannels: 2,
        ...rendition,
      })),
    })),
  }
}
