import type { Trouble } from '@green-mantle/core/night'

/** What to do about it, in the order in which it is tried; common practice, no published source. */
export const troubleAdvice = {
  'not arriving':
    'Look whether it is really being sent, then at the key (a fresh one each session?) and at the address; then press its page’s own refresh.',
  frozen:
    'See whether frames still go out. If they do, wait out its lag and load its page again; if not, stop that send alone and start it again.',
  'hung up':
    'It comes back by itself at the next keyframe. Where start is pressed on its page, press it again; a key of the session may have run out.',
  'losing frames':
    'With room on the line look at the computer, without it at the line: what else sends? Then lower this send’s bitrate before you lower the size.',
  'no sound':
    'Look at the live mix, then at the mute of the page you listen on, then at the sound of the send.',
} as const satisfies Record<Trouble, string>
