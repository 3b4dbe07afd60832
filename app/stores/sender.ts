import {
  type CanvasInput,
  carriedNowKbps,
  healthInWords,
  type Interrupted,
  type HealthInWords,
  isLineShort,
  type SenderSend,
  type SendTarget,
  type StandInNow,
} from '@green-mantle/core/night'
import type { CanvasName } from '@green-mantle/core/show'
import { useIntervalFn } from '@vueuse/core'
import { defineStore } from 'pinia'
import { computed, ref, shallowRef, watch } from 'vue'
import { oneAtATime } from '~/api/oneAtATime'
import { wordsFor } from '~/api/problem'
import {
  beginSender,
  beginStandIns,
  endSender,
  fetchSender,
  fetchStandIns,
  keepLookBack,
  type SenderAnswer,
  startSend,
  stopSend,
} from '~/api/sender'
import { useLineNowStore } from './lineNow'
import { useShowStore } from './show'

const lookMilliseconds = 1000
/** What a card draws of a rate. */
const keptRates = 90

/** What is sent from this computer, as it goes. */
export const useSenderStore = defineStore('sender', () => {
  const show = useShowStore()
  const answer = shallowRef<SenderAnswer>()
  const standIns = shallowRef<StandInNow[]>([])
  const problem = ref('')
  const isWorking = ref(false)
  /** The last rates of each send, kb/s, a second apart. */
  const rates = shallowRef<ReadonlyMap<string, readonly number[]>>(new Map())

  const state = computed(() => answer.value?.state ?? null)
  const isOn = computed(() => state.value !== null)
  const lineNow = useLineNowStore()
  // What goes to stand-ins stays on this computer, and is no load on the line.
  watch(answer, (now) => {
    const sends = now?.target === 'destinations' ? (now.state?.sends ?? []) : []
    lineNow.carriedKbps = carriedNowKbps(sends)
    lineNow.isShort = isLineShort(sends)
  })

  const { ask: look, askAfresh: lookAfresh } = oneAtATime(async () => {
    const { id } = show
    if (!id) return
    try {
      const [sender, standing] = await Promise.all([fetchSender(id), fetchStandIns(id)])
      if (show.id !== id) return
      answer.value = sender
      standIns.value = standing
      rates.value = new Map(
        (sender.state?.sends ?? []).map(({ key, kbps }) => [
          key,
          [...(rates.value.get(key) ?? []), kbps].slice(-keptRates),
        ]),
      )
    } catch (error) {
      problem.value = wordsFor(error)
    }
  })
  const looking = useIntervalFn(look, lookMilliseconds, { immediate: false })

  async function attempt(action: (id: string) => Promise<void>): Promise<void> {
    problem.value = ''
    isWorking.value = true
    try {
      if (show.id) await action(show.id)
    } catch (error) {
      problem.value = wordsFor(error)
    } finally {
      isWorking.value = false
    }
    await lookAfresh()
  }
  /** What is sent is what is saved, so that goes first. */
  async function saved(): Promise<void> {
    await show.save()
    await show.untilSettled()
    if (show.isUnsaved)
      throw new Error('The show is not saved yet, and what is sent is what is saved.')
  }

  const sendsTo = (destinationId: string): SenderSend[] =>
    (state.value?.sends ?? []).filter((send) => send.destinationId === destinationId)
  /** Whether this destination can be started and stopped from here. */
  const canSend = (destinationId: string): boolean =>
    sendsTo(destinationId).some(({ cannot }) => cannot === '')

  function healthOf(send: SenderSend): HealthInWords {
    const all = state.value?.sends ?? []
    return healthInWords(send, {
      encoderSpeed:
        state.value?.canvases.find(({ canvas }) => canvas === send.canvas)?.speed ?? null,
      others: all.filter(
        ({ key, stage }) => key !== send.key && stage !== 'ready' && stage !== 'ended',
      ),
    })
  }

  return {
    ...{ answer, state, standIns, problem, isOn, isWorking, rates },
    ...{ sendsTo, canSend, healthOf },
    standInOf: (destinationId: string) =>
      standIns.value.find((each) => each.destinationId === destinationId),
    open: () => {
      looking.resume()
      return lookAfresh()
    },
    close: () => {
      looking.pause()
      answer.value = undefined
      standIns.value = []
      rates.value = new Map()
      problem.value = ''
    },
    begin: (target: SendTarget, inputs: Record<CanvasName, CanvasInput>) =>
      attempt(async (id) => {
        await saved()
        await beginSender(id, { target, inputs })
      }),
    /** Begins again what was under way when the server ended, with all its sends. */
    goOn: ({ target, inputs, destinationIds }: Interrupted) =>
      attempt(async (id) => {
        await saved()
        await beginSender(id, { target, inputs })
        // One that cannot begin keeps no other from it.
        const began = await Promise.allSettled(destinationIds.map((each) => startSend(id, each)))
        const failed = began.find((each) => each.status === 'rejected')
        if (failed) throw failed.reason
      }),
    end: () => attempt(endSender),
    practise: () =>
      attempt(async (id) => {
        await saved()
        await beginStandIns(id)
      }),
    keepLookBack: () => attempt(keepLookBack),
    startSend: (destinationId: string) => attempt((id) => startSend(id, destinationId)),
    stopSend: (destinationId: string) => attempt((id) => stopSend(id, destinationId)),
  }
})
