import { type Destination, mixes, type Mix, type Show, type Sound } from '../show'
import { sampleRateInWords } from '../words'

export type SoundCheckKind =
  | 'twice in one mix'
  | 'mono by accident'
  | 'sample rate'
  | 'music kept'
  | 'empty mix'
  | 'hand-off'

/** One thing about the sound that will go wrong, may go wrong, or is worth knowing. */
export interface SoundCheck {
  kind: SoundCheckKind
  tone: 'fails' | 'attention' | 'note'
  /** A sentence that names the sounds and what is wrong. */
  words: string
  /** The sound or destination that it is about first. */
  aboutId: string
  remedy: { words: string; soundId: string; changes: Partial<Sound> } | null
}

const isHeard = (sound: Sound, mix: Mix): boolean => sound.mixes[mix] && !sound.muted
const isUsed = (sound: Sound): boolean => mixes.some((mix) => isHeard(sound, mix))

/** A change that takes a sound out of one mix. */
function outOf(mix: Mix, sound: Sound): SoundCheck['remedy'] {
  return {
    words: `Take ${sound.name} out`,
    soundId: sound.id,
    changes: { mixes: { ...sound.mixes, [mix]: false } },
  }
}

function carryTheSame(a: Sound, b: Sound): boolean {
  const sameInput = a.input !== '' && a.input.toLowerCase() === b.input.toLowerCase()
  return sameInput || a.alsoHeardIn.includes(b.id) || b.alsoHeardIn.includes(a.id)
}

function heardTwice(sounds: readonly Sound[]): SoundCheck[] {
  return mixes.flatMap((mix) => {
    const heard = sounds.filter((sound) => isHeard(sound, mix))
    return heard.flatMap((a, index) =>
      heard
        .slice(index + 1)
        .filter((b) => carryTheSame(a, b))
        .map((b): SoundCheck => {
          // The one that is heard in the other anyway is the one to do without.
          const spare = a.alsoHeardIn.includes(b.id) ? a : b
          return {
            kind: 'twice in one mix',
            tone: 'fails',
            words: `${a.name} and ${b.name} carry the same sound in the ${mix} mix: it is heard twice, with an echo.`,
            aboutId: spare.id,
            remedy: outOf(mix, spare),
          }
        }),
    )
  })
}

function monoByAccident(sounds: readonly Sound[]): SoundCheck[] {
  return sounds
    .filter((sound) => isUsed(sound) && sound.kind !== 'microphone' && sound.channels === 1)
    .map((sound) => ({
      kind: 'mono by accident',
      tone: 'attention',
      words: `${sound.name} is taken in mono; ${sound.kind === 'own sound' ? 'a source’s own sound' : sound.kind} is usually stereo.`,
      aboutId: sound.id,
      remedy: { words: 'Set stereo', soundId: sound.id, changes: { channels: 2 } },
    }))
}

function monoSends({ sounds, destinations }: Show): SoundCheck[] {
  const isStereo = sounds.some((sound) => isHeard(sound, 'live') && sound.channels === 2)
  return destinations
    .filter(
      ({ on, rules, renditions }) =>
        on && isStereo && rules.mostAudioChannels === 2 && renditions[0]?.audioChannels === 1,
    )
    .map(({ id, name }) => ({
      kind: 'mono by accident',
      tone: 'attention',
      words: `${name} gets mono, though the live mix is stereo and it takes stereo.`,
      aboutId: id,
      remedy: null,
    }))
}

function sampleRates({ sounds, destinations, mixSampleRateHz }: Show): SoundCheck[] {
  const mixed = sampleRateInWords(mixSampleRateHz)
  const ofSounds = sounds
    .filter((sound) => isUsed(sound) && sound.sampleRateHz !== mixSampleRateHz)
    .map((sound): SoundCheck => ({
      kind: 'sample rate',
      tone: 'attention',
      words: `${sound.name} is taken at ${sampleRateInWords(sound.sampleRateHz)} and mixed at ${mixed}: it is converted on the way, and may drift.`,
      aboutId: sound.id,
      remedy: {
        words: `Set ${mixed}`,
        soundId: sound.id,
        changes: { sampleRateHz: mixSampleRateHz },
      },
    }))
  const ofDestinations = destinations
    .filter(({ on, renditions }) => on && renditions[0]?.audioSampleRateHz !== mixSampleRateHz)
    .map(({ id, name, renditions }): SoundCheck => ({
      kind: 'sample rate',
      tone: 'note',
      words: `${name} gets ${sampleRateInWords(renditions[0]?.audioSampleRateHz ?? mixSampleRateHz)}, converted from the mix’s ${mixed}.`,
      aboutId: id,
      remedy: null,
    }))
  return [...ofSounds, ...ofDestinations]
}

function keptMusic(sounds: readonly Sound[]): SoundCheck[] {
  return sounds
    .filter((sound) => sound.kind === 'music' && !sound.mayBeKept && isHeard(sound, 'archive'))
    .map((sound) => ({
      kind: 'music kept',
      tone: 'attention',
      words: `${sound.name} is in the archive mix, and there is no right to keep it.`,
      aboutId: sound.id,
      remedy: outOf('archive', sound),
    }))
}

function emptyMixes({ sounds, destinations }: Show): SoundCheck[] {
  if (sounds.length === 0) return []
  return mixes
    .filter((mix) => !sounds.some((sound) => isHeard(sound, mix)))
    .map((mix): SoundCheck => {
      const isSent = mix === 'live' && destinations.some(({ on }) => on)
      return {
        kind: 'empty mix',
        tone: isSent ? 'fails' : 'attention',
        words:
          mix === 'live'
            ? 'Nothing is in the live mix: every destination would be silent.'
            : 'Nothing is in the archive mix: what is kept would be silent.',
        aboutId: mix,
        remedy: null,
      }
    })
}

const handOffProblems: Record<
  Destination['handOff']['sound'],
  { tone: SoundCheck['tone']; words: string } | null
> = {
  'our live mix': null,
  both: {
    tone: 'fails',
    words: 'takes our live mix and its own microphone: the voices are doubled. Let it take one.',
  },
  neither: { tone: 'fails', words: 'takes no sound at all: its viewers hear nothing.' },
  'its own microphone': {
    tone: 'note',
    words: 'takes its own microphone only: its viewers hear nothing else of the live mix.',
  },
}

function handOffSounds(destinations: readonly Destination[]): SoundCheck[] {
  return destinations
    .filter(({ on, connection }) => on && connection === 'hand-off')
    .flatMap(({ id, name, handOff }): SoundCheck[] => {
      const problem = handOffProblems[handOff.sound]
      if (!problem) return []
      const words = `The program of ${name} ${problem.words}`
      return [{ kind: 'hand-off', tone: problem.tone, words, aboutId: id, remedy: null }]
    })
}

const order = ['fails', 'attention', 'note'] as const

/** Everything about the sound of a show that a person should know, the worst first. */
export function soundChecks(show: Show): SoundCheck[] {
  return [
    ...heardTwice(show.sounds),
    ...monoByAccident(show.sounds),
    ...monoSends(show),
    ...sampleRates(show),
    ...keptMusic(show.sounds),
    ...emptyMixes(show),
    ...handOffSounds(show.destinations),
  ].sort((a, b) => order.indexOf(a.tone) - order.indexOf(b.tone))
}
