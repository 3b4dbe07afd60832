import type { Problem, Solution } from '../problem/problem'

/**
 * What of docs/fit.md, "What has to hold", a solution breaks, in words; written down plainly from the
 * text, with nothing of the search in it. Empty where it breaks nothing.
 */
export function brokenConstraints(problem: Problem, solution: Solution): string[] {
  const broken: string[] = []
  const claim = (holds: boolean, words: string): unknown => holds || broken.push(words)
  const { demands, relays, shapes, places, bitratesKbps, devices } = problem
  const served = solution.encodes.map((encode, index) => ({
    ...encode,
    bitrate: bitratesKbps.indexOf(encode.bitrateKbps),
    by: solution.assignments.filter(({ encode: own }) => own === index),
  }))

  claim(
    solution.assignments.map(({ demand }) => demand).join() === demands.map((_, at) => at).join(),
    'every demand is assigned once, in order',
  )
  const owners = new Map<string, Set<boolean>>()
  solution.assignments.forEach(({ demand, encode }) => {
    const { owner, mustKeep } = demands[demand]!
    owners.set(owner, (owners.get(owner) ?? new Set()).add(encode === null))
    if (mustKeep) claim(encode !== null, `${owner} has to be kept`)
  })
  for (const [owner, leftOut] of owners)
    claim(leftOut.size === 1, `the steps of ${owner} are left out together`)

  let [upload, disk, below, units, recorded] = [0, 0, 0, 0, 0]
  const sentTo = new Map<number, number>()
  served.forEach(({ shape, device, load, bitrate, by }, index) => {
    const name = `encode ${index}`
    claim(by.length > 0, `${name} serves somebody`)
    claim(bitrate >= 0, `the bitrate of ${name} is one that may be chosen`)
    const place = places[shape]!.find((each) => each.device === device)
    claim(place !== undefined && Math.abs(place.load - load) < 1e-12, `${name} has its place`)
    const via = by.map(({ demand, relay }) => (relay === null ? demands[demand]! : relays[relay]!))
    claim(new Set(via.map(({ picture }) => picture)).size <= 1, `${name} is one picture`)
    const sounds = new Set(via.flatMap(({ sound }) => sound ?? []))
    claim(sounds.size <= 1, `${name} has one sound`)
    if (by.length > 1)
      claim(
        by.every(({ demand }) => demands[demand]!.shares),
        `those in ${name} share`,
      )
    for (const { demand, relay } of by) {
      const own = demands[demand]!
      const choice = own.choices.find((each) => each.shape === shape)
      const score = choice?.scores[bitrate - choice.first] ?? -1
      claim(score >= 0, `${own.id} accepts the shape and bitrate of ${name}`)
      claim(own.devices?.includes(device) ?? true, `${own.id} is encoded where it may be`)
      units += Math.max(0, score)
      if (score < own.floorUnits) below += 1
      if (relay === null) {
        claim(own.direct, `${own.id} may be sent to directly`)
        const wire = choice?.wireKbps[bitrate] ?? -1
        claim(wire >= 0, `the path of ${own.id} carries it`)
        upload += Math.max(0, wire)
        disk += choice?.diskMegabytes?.[bitrate] ?? 0
        if (choice?.diskMegabytes) recorded += bitratesKbps[bitrate] ?? 0
      } else claim(own.relays.includes(relay), `${own.id} may be fed by relay ${relay}`)
    }
    for (const relay of new Set(by.flatMap((each) => each.relay ?? []))) {
      const { wires, devices: allowed } = relays[relay]!
      const accepted = wires.get(shape)
      claim(
        accepted !== undefined && bitrate >= accepted.first && bitrate < accepted.end,
        `relay ${relay} accepts what it is sent`,
      )
      claim(
        allowed?.includes(device) ?? true,
        `what relay ${relay} is sent is encoded where it may be`,
      )
      upload += accepted?.wireKbps[bitrate] ?? 0
      sentTo.set(relay, (sentTo.get(relay) ?? 0) + 1)
    }
    const isSmaller = (other: number): boolean => {
      const [a, b] = [shapes[other]!, shapes[shape]!]
      return (
        a.codec === b.codec &&
        a.effort === b.effort &&
        a.efficiency === b.efficiency &&
        a.width * a.height <= b.width * b.height &&
        a.framesPerSecond <= b.framesPerSecond &&
        (a.width * a.height < b.width * b.height || a.framesPerSecond < b.framesPerSecond)
      )
    }
    const accepts = (demand: number, other: number): boolean =>
      demands[demand]!.choices.some((each) => each.shape === other)
    const hasEarned = by.some(({ demand }) => {
      const choice = demands[demand]!.choices.find((each) => each.shape === shape)
      return !choice?.earned || choice.earned[bitrate - choice.first] === 1
    })
    const isSmallest = !shapes.some(
      (_, other) =>
        isSmaller(other) &&
        by.every(
          ({ demand, relay }) =>
            accepts(demand, other) && (relay === null || relays[relay]!.wires.has(other)),
        ),
    )
    claim(hasEarned || isSmallest, `the size of ${name} is earned`)
  })
  relays.forEach(({ mostFed }, relay) => {
    const fed = solution.assignments.filter((each) => each.relay === relay).length
    claim(fed <= mostFed, `relay ${relay} feeds no more than it may`)
    claim((sentTo.get(relay) ?? 0) <= 1, `relay ${relay} is sent to once`)
  })
  devices.forEach(({ maxLoad, sessions }, device) => {
    const own = served.filter((each) => each.device === device)
    claim(own.length <= (sessions ?? Infinity), `device ${device} has sessions enough`)
    const load = own.reduce((sum, each) => sum + each.load, 0)
    claim(load <= maxLoad + 1e-9, `device ${device} keeps up`)
  })
  claim(upload <= problem.uploadKbps, 'the sends fit the upload')
  claim(disk <= problem.diskMegabytes, 'the recordings fit the disk')

  const { worth } = solution
  const leftOutWeight = [...owners].reduce(
    (sum, [owner, leftOut]) =>
      leftOut.has(true) ? sum + demands.find((each) => each.owner === owner)!.priority : sum,
    0,
  )
  claim(worth.leftOutWeight === leftOutWeight, 'what is left out is said')
  claim(worth.belowFloor === below, 'how many are below the floor is said')
  claim(worth.scoreUnits === units, 'the score is said')
  claim(worth.encodes === served.length, 'the number of encodes is said')
  claim(worth.kbps === upload + recorded, 'the kb/s are said')
  claim(solution.uploadKbps === upload, 'the upload is said')
  return broken
}
