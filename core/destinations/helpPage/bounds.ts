import type { Bound } from './finding'

export const most =
  /\b(?:up to|max(?:imum|imal|\.)?|at most|no (?:more|higher|longer|larger|greater) than|not (?:exceed|go over|above|more than|higher than)|(?:don['’]t|do not|never|must not|cannot|can['’]t) (?:exceed|go (?:over|above|beyond))|exceed(?:s|ing)?|limit(?:ed)?(?: to| of| is)?|cap(?:ped)?(?: at)?|or (?:less|lower|below|under|fewer)|below|under|less than|not over|highest|largest|ceiling|upper)\b|[≤<]|\bor less\b/i
const least =
  /\b(?:min(?:imum|imal|\.)?|at least|no (?:less|lower|fewer) than|not (?:below|under|less than|lower than)|or (?:more|higher|above|faster)|lowest|from|above|over|starting (?:at|from)|lower bound)\b|[≥>]/i
const only =
  /\b(?:only|must be|has to be|exactly|fixed|locked|either|required|always|nothing else|no other)\b/i
export const advised =
  /\b(?:recommend(?:ed|ation|s)?|suggest(?:ed|s)?|ideal(?:ly)?|best|typical(?:ly)?|preferred|prefer|target|aim|usual(?:ly)?|default)\b/i

const trouble =
  /\b(?:cut|disconnect\w*|reject\w*|refus\w*|convert\w*|reduced|drop(?:s|ped)?|error\w*|unstable|warning|fails?|problems?|trouble|not (?:accepted|supported|allowed))\b/i

/** What the words right before and after a value make of it; the nearest to it counts, then the heading. */
export function boundOf(before: string, after: string, heading: string): Bound {
  if (
    /^\s*(?:,\s*)?(?:\(?\s*)?(?:or (?:less|lower|below|under|fewer)|max(?:imum|\.)?\b|at most|tops|is the (?:most|limit|max))/i.test(
      after,
    )
  )
    return 'most'
  if (
    /^\s*(?:,\s*)?\(?\s*(?:or (?:more|higher|above)|min(?:imum|\.)?\b|at least|is the (?:least|minimum))/i.test(
      after,
    )
  )
    return 'least'
  if (/^\s*\(?\s*only\b/i.test(after)) return 'only'
  const near = before.slice(-70)
  const at = (pattern: RegExp): number => {
    const all = [...near.matchAll(new RegExp(pattern.source, 'gi'))]
    const last = all.at(-1)
    return last ? last.index + last[0].length : -1
  }
  const found = (
    [
      ['most', at(most)],
      ['least', at(least)],
      ['only', at(only)],
      ['advised', at(advised)],
    ] as [Bound, number][]
  ).filter(([, index]) => index >= 0)
  const [nearest] = found.sort((a, b) => b[1] - a[1])
  // "Not below" and "no less than" hold the word that alone would mean the opposite.
  if (nearest) {
    if (/\b(?:no|not|never)\s+(?:less|lower|fewer|below|under)\b[^\d]*$/i.test(near)) return 'least'
    // What makes trouble above a value is allowed up to it.
    return nearest[0] === 'least' && trouble.test(`${before} ${after}`) ? 'most' : nearest[0]
  }
  if (most.test(heading)) return 'most'
  if (least.test(heading)) return 'least'
  if (advised.test(heading)) return 'advised'
  if (only.test(heading)) return 'only'
  return 'said'
}

/** Whether the words about a thing say that it is not taken. */
export const isDenied = (words: string, at: number, length: number): boolean =>
  /\b(?:no|not|without|isn['’]t|except|neither|nor|kein|keine|ohne|sans|pas de|ni)\W*(?:\w+\W+){0,2}$/i.test(
    words.slice(Math.max(0, at - 30), at),
  ) ||
  /^(?:(?!\b(?:but|while|whereas|however|although|though|aber|mais)\b|\b(?:is|are) (?:supported|accepted|allowed|required|preferred|recommended|taken|fine|ok)\b)[^.;,]){0,40}?\b(?:not (?:(?:be|currently|yet) )?(?:supported|accepted|allowed|available|taken|yet|possible)|unsupported|isn['’]t|aren['’]t|won['’]t|can(?:not|['’]t)|rejected|refused|declined|dropped|ignored|disconnected|coming|soon|planned|later|in future|not yet|nicht|abgelehnt|non|refusés?|bientôt)\b/i.test(
    words.slice(at + length),
  )
