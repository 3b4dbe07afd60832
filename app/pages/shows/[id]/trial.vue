<script setup lang="ts">
import { type PracticeLineName, practiceLineNames, practiceLines } from '@green-mantle/core/network'
import { type CanvasName, canvasNames } from '@green-mantle/core/show'
import { trialSecondsLimits, trialVerdict } from '@green-mantle/core/trial'
import { Play, Square } from '@lucide/vue'
import { DateTime } from 'luxon'
import { computed, reactive, ref } from 'vue'
import { RouterLink } from 'vue-router'
import { offerCommands } from '~/commands/commands'
import AddressField from '~/components/destinations/AddressField.vue'
import SelectField from '~/components/fields/SelectField.vue'
import RehearsalWays from '~/components/rehearse/RehearsalWays.vue'
import PointEncoder from '~/components/trial/PointEncoder.vue'
import WhatArrived from '~/components/trial/WhatArrived.vue'
import WhatComputerDid from '~/components/trial/WhatComputerDid.vue'
import { useCanvasClips } from '~/composables/canvasClips'
import { useOwnHost } from '~/composables/ownHost'
import { useTrial } from '~/composables/trial'
import { useShowStore } from '~/stores/show'

const store = useShowStore()
const trial = useTrial()
const { result, isGoing, isOfThisPlan, listening, problem } = trial

const unheld = 'unheld' as const
const toOwnHost = 'to own host' as const
const seconds = ref<number>(trialSecondsLimits.default)
const durations = [15, 30, 60, 120].map((value) => ({ value, label: `${value} s` }))
const line = ref<PracticeLineName | typeof unheld | typeof toOwnHost>(unheld)
const lines = [
  { value: unheld, label: 'straight to the listeners' },
  ...practiceLineNames.map((value) => ({
    value,
    label: `practice line: ${practiceLines[value].name}`,
  })),
  { value: toOwnHost, label: 'to a host of your own' },
]
const { address: ownHost, protocol: ownHostProtocol, isRight: isOwnHostRight } = useOwnHost()
const isToOwnHost = computed(() => line.value === toOwnHost)

const state = computed(() => trial.trial.value?.state ?? null)
const missing = computed(() => trial.trial.value?.missing ?? null)
const hasSends = computed(() => store.verdict.budget.sends.length > 0)
const canBegin = computed(
  () => hasSends.value && missing.value === null && (!isToOwnHost.value || isOwnHostRight.value),
)
const verdict = computed(() => (result.value ? trialVerdict(result.value) : null))
const tones = { fits: 'text-moss', attention: 'text-ochre', fails: 'text-madder' } as const
const about = computed(() => {
  if (!result.value) return 'Real encoders and real sends, to listeners that nobody watches.'
  const { at, seconds: length, line: by, ownHost: to, input } = result.value
  const when = DateTime.fromISO(at).toLocaleString(DateTime.DATETIME_MED)
  const sent = `Sent for real from this computer for ${length} s with the ${input} on ${when}`
  if (to !== null)
    return `${sent}, over the real line to ${to}; sends over SRT to listeners here. What left is known, not what came of it there.`
  const over = by === null ? 'straight to listeners of our own' : `over the practice line ${by}`
  return `${sent}, ${over}. Nobody saw it.`
})
/** Whether what this computer did says little of the plan, which has another one in mind. */
const isForeign = computed(
  () =>
    result.value !== null &&
    store.show.computer.measured?.installation !== result.value.installation,
)
const clipsFor = useCanvasClips()
const clips = reactive<Record<CanvasName, string>>({ landscape: '', vertical: '' })
/** Only where the show has a media file there is something to choose. */
const clipChoices = computed(() =>
  canvasNames.flatMap((canvas) => {
    const files = clipsFor(canvas)
    return files.length > 0
      ? [{ canvas, choices: [{ value: '', label: 'the moving test picture' }, ...files] }]
      : []
  }),
)
const clipOf = (canvas: CanvasName): string | null =>
  clipsFor(canvas).find(({ value }) => value === clips[canvas])?.value ?? null
const begin = (): Promise<void> =>
  trial.begin({
    seconds: seconds.value,
    line: line.value === unheld || line.value === toOwnHost ? null : line.value,
    ownHost: isToOwnHost.value ? ownHost.value : null,
    clips: { landscape: clipOf('landscape'), vertical: clipOf('vertical') },
  })

offerCommands([
  {
    id: 'trial.begin',
    label: 'Try the plan for real',
    group: 'Rehearse',
    keys: 'r',
    isPossible: () => !isGoing.value && canBegin.value,
    run: () => void begin(),
  },
  {
    id: 'trial.stop',
    label: 'Stop the trial',
    group: 'Rehearse',
    isPossible: () => isGoing.value,
    run: () => void trial.stop(),
  },
  {
    id: 'trial.listen',
    label: 'Listen to your own encoder',
    group: 'Rehearse',
    keys: 'i',
    isPossible: () => listening.value === null,
    run: () => void trial.listen(),
  },
])
</script>

<template>
  <div class="roomy:h-full roomy:overflow-y-auto flex flex-col gap-3 p-4">
    <div class="flex shrink-0 flex-wrap items-end justify-end gap-x-3 gap-y-2">
      <div class="min-w-72 flex-1 basis-full xl:basis-80">
        <h2 class="text-2xl" :class="verdict && isOfThisPlan ? tones[verdict.state] : ''">
          {{ verdict ? verdict.sentence : 'Not tried yet' }}
        </h2>
        <p class="text-ink-2 text-xs">{{ about }}</p>
        <p v-if="result && !isOfThisPlan" class="text-ochre">
          The plan has changed since it was tried.
        </p>
        <p v-if="problem" role="alert" class="text-madder">{{ problem }}</p>
        <p v-if="missing" class="text-madder">{{ missing }}</p>
      </div>
      <RehearsalWays />
      <SelectField
        v-for="{ canvas, choices } in clipChoices"
        :key="canvas"
        v-model="clips[canvas]"
        class="w-52"
        :label="canvas === 'landscape' ? 'Landscape shows' : 'Vertical shows'"
        :choices="choices"
      />
      <SelectField v-model="line" class="w-60" label="Sent" :choices="lines" />
      <AddressField
        v-if="isToOwnHost"
        v-model="ownHost"
        class="w-72"
        label="Its RTMP address"
        :protocol="ownHostProtocol"
      />
      <SelectField v-model="seconds" class="w-24" label="For" :choices="durations" />
      <button v-if="isGoing" type="button" class="button" @click="trial.stop()">
        <Square class="size-4" /> Stop
      </button>
      <button
        v-else
        type="button"
        class="button button-primary"
        :disabled="!canBegin"
        @click="begin"
      >
        <Play class="size-4" /> {{ result ? 'Try again' : 'Try it' }}, {{ seconds }} s
      </button>
    </div>
    <p v-if="isGoing && state" role="status">
      <progress
        class="mr-2 w-56 align-middle"
        :max="state.seconds"
        :value="state.elapsedSeconds"
        aria-label="The trial"
      />
      {{ state.stage }}, <span class="number">{{ Math.round(state.elapsedSeconds) }} s</span>
    </p>
    <p v-if="isForeign" class="text-ochre">
      The plan was made for
      {{ store.show.computer.name || 'a computer of which nothing is known' }}, not for this
      computer as it was measured.
      <RouterLink class="link" :to="`/shows/${store.id}/encoders`">Measure this computer</RouterLink
      >.
    </p>
    <p v-if="!hasSends">
      A trial needs a destination that is sent to.
      <RouterLink class="link" :to="`/shows/${store.id}/destinations`"
        >Go to Destinations</RouterLink
      >.
    </p>
    <div
      v-else
      class="roomy:grid-cols-[minmax(0,1fr)_20rem] roomy:xl:grid-cols-[minmax(0,1fr)_24rem] grid shrink-0 grid-cols-[minmax(0,1fr)] items-start gap-3"
    >
      <div class="flex min-w-0 flex-col gap-3">
        <template v-if="result">
          <WhatComputerDid :result="result" :is-of-this-plan="isOfThisPlan" />
          <WhatArrived :result="result" :is-of-this-plan="isOfThisPlan" />
        </template>
        <section v-else class="card p-4">
          <p class="max-w-[65ch]">
            A trial runs every encode of the plan at once on this computer for a while, sends each
            to a listener of ours, and says what the computer did and what of it arrived. It finds
            what sums cannot: an encoder that does not keep up, a keyframe that comes too seldom, a
            rate that is not kept.
          </p>
        </section>
      </div>
      <PointEncoder
        :listening="listening"
        @listen="trial.listen()"
        @end="trial.endListening()"
        @open="trial.openToNetwork($event)"
        @close="trial.closeToNetwork()"
      />
    </div>
  </div>
</template>
