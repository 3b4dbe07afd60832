import type { Problem, Shape, Worth } from '../problem/problem'

/** Solves a linear program in the LP format of the general solvers; null where it has no solution. */
export type SolveProgram = (text: string) => { objective: number } | null

/**
 * The same problem written down once more as an integer program, independently of how the planner
 * solves it: a variable for every choice of every demand, every encode and every send to a relay.
 * The aims are met one after the other, each held while the next is improved.
 */
export function worthByIntegerProgram(problem: Problem, solve: SolveProgram): Worth | null {
  const { constraints, binaries, aims } = programOf(problem)
  const held: string[] = []
  const values: number[] = []
  for (const terms of aims) {
    const objective = terms.length > 0 ? terms : [[0, binaries[0] ?? 'none'] as Term]
    const solved = solve(
      [
        'Minimize',
        ` obj: ${sum(objective)}`,
        'Subject To',
        ...[...constraints, ...held].map((line, index) => ` c${index}: ${line}`),
        'Binary',
        ...binaries.map((name) => ` ${name}`),
        'End',
      ].join('\n'),
    )
    if (!solved) return null
    const value = Math.round(solved.objective)
    values.push(value)
    if (terms.length > 0) held.push(`${sum(terms)} <= ${value + 0.4}`)
  }
  const [leftOutWeight, belowFloor, lostUnits, encodes, kbps] = values as [
    number,
    number,
    number,
    number,
    number,
  ]
  return { leftOutWeight, belowFloor, scoreUnits: Math.abs(lostUnits), encodes, kbps }
}

/** All that makes up the program, as text: what an answer was recorded for. */
export const programText = (problem: Problem): string => {
  const { constraints, binaries, aims } = programOf(problem)
  return [...aims.map(sum), ...constraints, ...binaries].join('\n')
}

type Term = [number, string]

const sum = (terms: readonly Term[]): string =>
  terms.map(([factor, name]) => `${factor < 0 ? '-' : '+'} ${Math.abs(factor)} ${name}`).join(' ')

interface Program {
  constraints: string[]
  binaries: string[]
  /** Left out, below the floor, score (negative), encodes, kb/s: each to be made small. */
  aims: [Term[], Term[], Term[], Term[], Term[]]
}

function programOf(problem: Problem): Program {
  const constraints: string[] = []
  const binaries: string[] = []
  const aims: Program['aims'] = [[], [], [], [], []]
  const upload: Term[] = []
  const disk: Term[] = []
  const loads = problem.devices.map((): Term[] => [])
  const sessions = problem.devices.map((): Term[] => [])
  const encodes = new Map<string, string>()
  /** Of each encode whom it serves, or what relay it is sent to; and which smaller shapes these accept. */
  const served = new Map<string, { shape: number; by: Served[] }>()
  interface Served {
    name: string
    /** Whether the size has earned its place for it, at this bitrate. */
    isEarned: boolean
    accepts: (shape: number) => boolean
  }
  const relaySends = problem.relays.map(() => new Map<string, string>())
  const fed = problem.relays.map((): Term[] => [])
  const variable = (name: string): string => {
    binaries.push(name)
    return name
  }

  const encodeFor = (key: string, shape: number, bitrate: number, device: number): string => {
    const id = `${key} ${shape} ${bitrate} ${device}`
    const known = encodes.get(id)
    if (known) return known
    const name = variable(`y${encodes.size}`)
    encodes.set(id, name)
    served.set(name, { shape, by: [] })
    const { load } = problem.places[shape]!.find((place) => place.device === device)!
    loads[device]!.push([load, name])
    sessions[device]!.push([1, name])
    aims[3].push([1, name])
    return name
  }
  const pictureSounds = new Map<string, Set<string>>()
  const noteSound = (picture: string, sound: string): unknown =>
    pictureSounds.set(picture, (pictureSounds.get(picture) ?? new Set()).add(sound))
  for (const { picture, sound, shares } of problem.demands)
    if (sound !== null && shares) noteSound(picture, sound)
  for (const { picture, sound } of problem.relays) noteSound(picture, sound)

  /** The encode behind each send to a relay. */
  const relayedBy = new Map<string, string>()
  const relaySend = (
    relay: number,
    shape: number,
    bitrate: number,
    device: number,
  ): string | null => {
    const { wires, picture, sound, devices } = problem.relays[relay]!
    const accepted = wires.get(shape)
    if (!accepted || bitrate < accepted.first || bitrate >= accepted.end) return null
    const wire = accepted.wireKbps[bitrate]!
    if (wire < 0 || !(devices?.includes(device) ?? true)) return null
    const id = `${shape} ${bitrate} ${device}`
    const known = relaySends[relay]!.get(id)
    if (known) return known
    const name = variable(`z${relay}_${relaySends[relay]!.size}`)
    relaySends[relay]!.set(id, name)
    const sent = encodeFor(`${picture} ${sound}`, shape, bitrate, device)
    constraints.push(`${name} - ${sent} <= 0`)
    served.get(sent)!.by.push({ name, isEarned: false, accepts: (other) => wires.has(other) })
    relayedBy.set(name, sent)
    upload.push([wire, name])
    aims[4].push([wire, name])
    return name
  }

  const leftOut = new Map<string, string>()
  problem.demands.forEach((demand, index) => {
    const taken: Term[] = []
    let count = 0
    for (const { shape, first, scores, wireKbps, diskMegabytes } of demand.choices) {
      const isEarnedAt = earnings(problem, demand, shape)
      const devices = problem.places[shape]!.map(({ device }) => device).filter(
        (device) => demand.devices === null || demand.devices.includes(device),
      )
      scores.forEach((units, at) => {
        if (units < 0) return
        const bitrate = first + at
        for (const device of devices) {
          const ways: { by: string; wire: number; relay: number | null }[] = []
          if (demand.direct && wireKbps[bitrate]! >= 0) {
            const keys = !demand.shares
              ? [`own ${index}`]
              : demand.sound !== null
                ? [`${demand.picture} ${demand.sound}`]
                : [
                    `${demand.picture} recordings`,
                    ...[...(pictureSounds.get(demand.picture) ?? [])].map(
                      (sound) => `${demand.picture} ${sound}`,
                    ),
                  ]
            for (const key of keys)
              ways.push({
                by: encodeFor(key, shape, bitrate, device),
                wire: wireKbps[bitrate]!,
                relay: null,
              })
          }
          for (const relay of demand.relays) {
            const by = relaySend(relay, shape, bitrate, device)
            if (by) ways.push({ by, wire: 0, relay })
          }
          for (const { by, wire, relay } of ways) {
            const name = variable(`x${index}_${(count += 1)}`)
            constraints.push(`${name} - ${by} <= 0`)
            served.get(relayedBy.get(by) ?? by)!.by.push({
              name,
              isEarned: isEarnedAt(bitrate),
              accepts: (other) => demand.choices.some((choice) => choice.shape === other),
            })
            taken.push([1, name])
            if (units > 0) aims[2].push([-units, name])
            if (units < demand.floorUnits) aims[1].push([1, name])
            if (wire > 0) {
              upload.push([wire, name])
              aims[4].push([wire, name])
            }
            if (relay !== null) fed[relay]!.push([1, name])
            if (diskMegabytes) {
              disk.push([diskMegabytes[bitrate]!, name])
              aims[4].push([problem.bitratesKbps[bitrate]!, name])
            }
          }
        }
      })
    }
    let gone = leftOut.get(demand.owner)
    if (!gone) {
      gone = variable(`d${leftOut.size}`)
      leftOut.set(demand.owner, gone)
      aims[0].push([demand.priority, gone])
      if (demand.mustKeep) constraints.push(`${gone} = 0`)
    }
    constraints.push(`${sum([...taken, [1, gone]])} = 1`)
  })

  const limit = (terms: readonly Term[], most: number): void => {
    if (terms.length > 0) constraints.push(`${sum(terms)} <= ${most}`)
  }
  limit(upload, problem.uploadKbps)
  limit(disk, problem.diskMegabytes)
  problem.devices.forEach(({ maxLoad, sessions: most }, device) => {
    limit(loads[device]!, maxLoad)
    if (most !== null) limit(sessions[device]!, most)
  })
  problem.relays.forEach(({ mostFed }, relay) => {
    limit(fed[relay]!, mostFed)
    limit(
      [...relaySends[relay]!.values()].map((name): Term => [1, name]),
      1,
    )
  })
  // Of what it serves somebody has earned the size, or somebody does not accept the smaller one.
  for (const [encode, { shape, by }] of served)
    problem.shapes.forEach((other, smaller) => {
      if (!isSmallerShape(other, problem.shapes[shape]!)) return
      const excused = by.filter(({ isEarned, accepts }) => isEarned || !accepts(smaller))
      if (excused.length === by.length) return
      constraints.push(`${sum([[1, encode], ...excused.map(({ name }): Term => [-1, name])])} <= 0`)
    })
  return { constraints, binaries, aims }
}

/** Encoded alike, and smaller in size or frame rate and larger in neither. */
const isSmallerShape = (a: Shape, b: Shape): boolean =>
  a.codec === b.codec &&
  a.effort === b.effort &&
  a.efficiency === b.efficiency &&
  a.width * a.height <= b.width * b.height &&
  a.framesPerSecond <= b.framesPerSecond &&
  a.width * a.height * a.framesPerSecond < b.width * b.height * b.framesPerSecond

/**
 * At which bitrates a shape has earned its place for a demand: it is worth a margin more than every
 * smaller one that has, at whatever bitrate up to there, or reaches the floor where none of those does.
 * Written down anew from the words of docs/fit.md, by recursion.
 */
function earnings(
  { shapes }: Problem,
  { choices, floorUnits, marginUnits }: Problem['demands'][number],
  shape: number,
): (bitrate: number) => boolean {
  const choiceOf = new Map(choices.map((choice) => [choice.shape, choice]))
  const known = new Map<string, boolean>()
  const isEarned = (own: number, bitrate: number): boolean => {
    const key = `${own} ${bitrate}`
    const answer =
      known.get(key) ??
      choices
        .filter((other) => isSmallerShape(shapes[other.shape]!, shapes[own]!))
        .every((other) => {
          const units = choiceOf.get(own)!.scores[bitrate - choiceOf.get(own)!.first]!
          const earned = [...other.scores]
            .slice(0, Math.max(0, bitrate - other.first + 1))
            .filter((theirs, at) => theirs >= 0 && isEarned(other.shape, other.first + at))
          const most = Math.max(-1, ...earned)
          return (
            most < 0 || units >= most + marginUnits || (units >= floorUnits && most < floorUnits)
          )
        })
    known.set(key, answer)
    return answer
  }
  return (bitrate) => isEarned(shape, bitrate)
}
