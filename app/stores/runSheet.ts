import {
  dueTasks,
  expectedStarts,
  frozenPicture,
  type Happening,
  isBegunEarly,
  isDone,
  knownDone,
  knownTasks,
  nightOrder,
  type OrderedTask,
  orderChanges,
  outOfOrder,
  stagesOf,
  startSlipsSeconds,
} from '@green-mantle/core/night'
import { startOf } from '@green-mantle/core/destinations'
import { useIntervalFn } from '@vueuse/core'
import { defineStore } from 'pinia'
import { computed, ref, shallowRef } from 'vue'
import { fetchOwnComputer } from '~/api/computer'
import { browserMachine } from '~/browserEncoders/machine'
import { useKeysStore } from './keys'
import { useNightLogStore } from './nightLog'
import { useSenderStore } from './sender'
import { useShowStore } from './show'

const keysMilliseconds = 10_000

/** The order of the open show's night, and how far it is. */
export const useRunSheetStore = defineStore('run sheet', () => {
  const show = useShowStore()
  const keys = useKeysStore()
  const log = useNightLogStore()
  const sender = useSenderStore()

  const now = ref(new Date())
  const clock = useIntervalFn(() => {
    now.value = new Date(log.nowOnServer())
  }, 1000)
  // Another window, or a person at another machine, may paste one.
  const keysClock = useIntervalFn(() => void keys.load(), keysMilliseconds, { immediate: false })
  const installation = ref<string | null>(null)
  const freeDiskGigabytes = ref<number | null>(null)

  const startsAt = computed(() => startOf(show.show))
  /** Seconds since the start of the show; below zero before it. */
  const nowSeconds = computed(() => (now.value.getTime() - startsAt.value.getTime()) / 1000)
  const order = computed(() => nightOrder(show.show))
  const changes = computed(() => orderChanges(show.show, order.value))
  // What is known changes with the minute, not with the second.
  const minute = computed(() => Math.floor(now.value.getTime() / 60_000))
  const known = computed(() =>
    knownTasks(show.show, order.value, {
      now: new Date(minute.value * 60_000),
      keys: keys.records,
      installation: installation.value,
      browserMachine: browserMachine(),
      freeDiskGigabytes: freeDiskGigabytes.value,
    }),
  )
  const knownIds = computed(() => knownDone(known.value))
  const done = computed(() => isDone(log.state, knownIds.value))
  const due = computed(() => dueTasks(order.value, done.value, nowSeconds.value))
  const expected = computed(() =>
    expectedStarts(order.value, log.state, knownIds.value, {
      nowSeconds: nowSeconds.value,
      startsAt: startsAt.value,
    }),
  )
  const isOn = computed(() => log.state.begunAt !== null && log.state.overAt === null)
  const slipSeconds = computed(() => (isOn.value ? startSlipsSeconds(expected.value) : 0))
  const sends = computed(() =>
    show.show.destinations
      .filter(({ on }) => on)
      .map((destination) => ({
        destination,
        stages: stagesOf(destination.id, order.value, done.value),
        frozen: frozenPicture(destination.id, order.value, done.value),
        trouble: log.state.troubles.get(destination.id) ?? null,
      })),
  )

  /** A task that was to be ticked although something else comes first, and what that is. */
  const asked = shallowRef<{ task: OrderedTask; words: string } | null>(null)

  function say(happening: Happening): void {
    log.happened(happening)
  }
  /** Does what can be done from here, and says that it is done. */
  function carryOut({ id, title, destinationId }: OrderedTask, knowingly: boolean): void {
    const isFromHere = destinationId !== null && sender.canSend(destinationId)
    if (isFromHere && id === `send-${destinationId}`) {
      // Ticked by the sender, once the destination takes it.
      void sender.startSend(destinationId)
      return
    }
    if (isFromHere && id === `stop-${destinationId}`) void sender.stopSend(destinationId)
    say({ kind: 'ticked', taskId: id, title, knowingly })
  }
  function tick(task: OrderedTask): void {
    const words = outOfOrder(task, order.value, done.value)
    if (words === null) carryOut(task, false)
    else asked.value = { task, words }
  }
  function tickAllTheSame(): void {
    const task = asked.value?.task
    asked.value = null
    if (task) carryOut(task, true)
  }
  /** Days before the show it is asked first: every window would stand in a night that is not there. */
  const asksToBegin = ref(false)
  function begin(knowingly = false): void {
    asksToBegin.value = !knowingly && isBegunEarly(nowSeconds.value)
    if (!asksToBegin.value) say({ kind: 'begun' })
  }
  function untick(task: OrderedTask): void {
    say({ kind: 'unticked', taskId: task.id, title: task.title })
  }

  /** Which computer this is and what is free on it; without it the encoders are not known to be its own. */
  async function lookAtComputer(): Promise<void> {
    const own = await fetchOwnComputer().catch(() => null)
    if (!own) return
    installation.value = own.installation
    freeDiskGigabytes.value = own.freeDiskGigabytes
  }

  async function open(): Promise<void> {
    clock.resume()
    keysClock.resume()
    void keys.load()
    void lookAtComputer()
    void sender.open()
    await log.open(show.id)
  }
  function close(): void {
    clock.pause()
    keysClock.pause()
    asked.value = null
    asksToBegin.value = false
    sender.close()
    log.close()
  }

  return {
    ...{ now, nowSeconds, startsAt, order, changes, known, knownIds, done, due, expected },
    ...{ isOn, slipSeconds, sends, asked, asksToBegin, installation, freeDiskGigabytes },
    ...{ open, close, lookAtComputer, say, begin, tick, tickAllTheSame, untick },
  }
})
