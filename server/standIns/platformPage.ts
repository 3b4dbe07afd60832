import type { ArrivalReport } from '@green-mantle/core/arrival'
import type { StandInPlatform } from './platform'
import { escaped, page } from './page'

const pictureWords = {
  none: 'No picture comes in.',
  'on its way': 'A signal comes in. Its picture is on its way.',
  there: 'The picture is there.',
  frozen: 'The picture is frozen: nothing comes in any more, and viewers go on looking.',
} as const

function arrivingInWords(report: ArrivalReport | null): string {
  const { picture } = report ?? {}
  if (!picture?.width) return ''
  return `${picture.width}×${picture.height}`
}

/** The page on which a person starts and ends, as on the page of any platform; loaded again every two seconds. */
export function platformPage(
  platform: StandInPlatform,
  { action, address, report }: { action: string; address: string; report: ArrivalReport | null },
): string {
  const { name, rules } = platform.destination
  const { picture, isLive, isPractice, isOver, key } = platform.state()
  const button = (does: string, words: string, disabled = false): string =>
    `<button name="do" value="${does}"${disabled ? ' disabled' : ''}>${words}</button>`
  const state = isLive
    ? isPractice
      ? 'Live for the practice audience'
      : 'Live'
    : isOver
      ? 'Ended'
      : 'Not live'
  const keyWords =
    rules.key.life === 'per session'
      ? `<p>Stream key of this session: <code id="key">${key ? escaped(key) : 'none yet'}</code></p>${button('key', 'New session')}`
      : '<p>It takes the key that you have of it.</p>'
  const start =
    rules.start === 'pressed on its page'
      ? `${button('start', 'Start', picture !== 'there' || isLive)}${button('practise', 'Start for the practice audience', picture !== 'there' || isLive)}${isPractice ? button('open', 'Open to everybody') : ''}`
      : '<p>It is live when its picture arrives.</p>'
  const end =
    rules.end === 'pressed on its page'
      ? button('end', 'End', !isLive)
      : '<p>It ends when the signal stops.</p>'
  const chat =
    rules.chat === 'no chat'
      ? ''
      : `<fieldset><legend>Chat</legend>${
          platform
            .chat()
            .slice(-8)
            .map(({ who, text }) => `<p><strong>${escaped(who)}</strong> ${escaped(text)}</p>`)
            .join('') || '<p>Nobody has written yet.</p>'
        }</fieldset>`
  return page(
    `${name}, a stand-in`,
    `<p>It behaves as the rules of ${escaped(name)} say, on this computer alone. Nobody sees it.</p>
    <p role="status"><strong>${state}.</strong> ${pictureWords[picture]} ${escaped(arrivingInWords(report))}</p>
    <form method="post" action="${escaped(action)}">
    <fieldset><legend>Key</legend>${keyWords}<p>Server address: <code>${escaped(address)}</code></p></fieldset>
    <fieldset><legend>Start and end</legend>${start}${end}</fieldset>
    <fieldset><legend>Make trouble</legend>${button('hang up', 'Hang up')}${button('refuse', 'Refuse the next one')}</fieldset>
    </form>${chat}`,
    2,
  )
}
