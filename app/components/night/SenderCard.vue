<script setup lang="ts">
import { type CanvasInput, canvasInputs, type SendTarget } from '@green-mantle/core/night'
import { dropsInstead } from '@green-mantle/core/on-air'
import { type CanvasName, canvasNames } from '@green-mantle/core/show'
import { listInWords } from '@green-mantle/core/words'
import { Radio, Square } from '@lucide/vue'
import { computed, reactive, ref } from 'vue'
import SelectField from '~/components/fields/SelectField.vue'
import ModalDialog from '~/components/frame/ModalDialog.vue'
import CopiedText from '~/components/trial/CopiedText.vue'
import GoOn from './GoOn.vue'
import { useRunSheetStore } from '~/stores/runSheet'
import { useSenderStore } from '~/stores/sender'
import { useCanvasClips } from '~/composables/canvasClips'
import { useShowStore } from '~/stores/show'

/** Sends the plan from this computer, for real or to practise. */
const show = useShowStore()
const sheet = useRunSheetStore()
const sender = useSenderStore()

const target = ref<SendTarget>('stand-ins')
const targets = [
  { value: 'stand-ins' as const, label: 'stand-ins, to practise' },
  { value: 'destinations' as const, label: 'the destinations, for real' },
]
/** By canvas, as the list has it; a media file stands under its identifier. */
const chosen = reactive<Record<CanvasName, string>>({
  landscape: 'test picture',
  vertical: 'test picture',
})
const inputNames: Record<string, string> = {
  'on-air window': 'the on-air window',
  'test picture': 'the moving test picture',
  'own program': 'the program that draws it',
}
const clipsFor = useCanvasClips()
const inputChoices = (canvas: CanvasName): { value: string; label: string }[] => [
  ...canvasInputs.map((value) => ({ value, label: inputNames[value] ?? value })),
  ...clipsFor(canvas),
]
const inputOf = (canvas: CanvasName): CanvasInput =>
  canvasInputs.find((input) => input === chosen[canvas]) ?? { fileId: chosen[canvas] }
const inputs = (): Record<CanvasName, CanvasInput> => ({
  landscape: inputOf('landscape'),
  vertical: inputOf('vertical'),
})
const canvases = computed(() =>
  canvasNames.filter(
    (canvas) =>
      show.show.destinations.some((each) => each.on && each.canvas === canvas) ||
      show.show.recordings.some((each) => each.on && each.canvas === canvas),
  ),
)
const state = computed(() => sender.state)
const summary = computed(() => {
  const all = state.value
  if (!all) return ''
  const speeds = all.canvases.flatMap(({ canvas, speed, isPassedOn }) =>
    speed === null || isPassedOn ? [] : [`${canvas} ${speed.toFixed(2)}× real time`],
  )
  const files = all.recordings.map(
    ({ name, megabytes }) =>
      `${name} ${megabytes < 10 ? megabytes.toFixed(1) : Math.round(megabytes)} MB`,
  )
  const count = (canvases: typeof all.canvases): number =>
    canvases.reduce((sum, each) => sum + each.encodes.length, 0)
  const byWindow = count(all.canvases.filter(({ isPassedOn }) => isPassedOn))
  const ofThese = byWindow > 0 ? [`${byWindow} of them by the on-air window`] : []
  return [`${count(all.canvases)} encodes`, ...ofThese, ...speeds, ...files].join(', ')
})
const waiting = computed(() =>
  (state.value?.canvases ?? []).filter((each) => each.input === 'own program' && !each.isRunning),
)
const isDrawnHere = computed(() =>
  sender.isOn
    ? (state.value?.canvases ?? []).some(({ input }) => input === 'on-air window')
    : canvases.value.some((canvas) => chosen[canvas] === 'on-air window'),
)
const liveNames = computed(() =>
  sheet.sends
    .filter(({ stages }) => {
      const reached = stages.findLast(({ isReached }) => isReached)?.stage
      return reached === 'live' || reached === 'arrived'
    })
    .map(({ destination }) => destination.name),
)
/** Those whose plan asks for what the encoder program cannot do while it runs. */
const dropping = computed(() =>
  dropsInstead(show.show, (canvas) => chosen[canvas] === 'on-air window'),
)
const asks = ref(false)
function stop(): void {
  if (liveNames.value.length > 0 && !asks.value) asks.value = true
  else {
    asks.value = false
    void sender.end()
  }
}
</script>

<template>
  <section class="card p-3" aria-labelledby="sender-title">
    <div class="flex flex-wrap items-center gap-2">
      <h2 id="sender-title" class="text-lg">
        {{
          sender.isOn
            ? sender.answer?.target === 'stand-ins'
              ? 'Practised from this computer'
              : 'Sent from this computer'
            : 'Send from here'
        }}
      </h2>
      <button
        v-if="sender.isOn"
        type="button"
        class="button text-madder ml-auto"
        :disabled="sender.isWorking"
        @click="stop"
      >
        <Square class="size-4" /> Stop all …
      </button>
    </div>
    <GoOn />
    <p v-if="sender.isOn" class="text-ink-2 text-sm">{{ summary }}</p>
    <p
      v-for="words in state?.unrecorded"
      :key="words"
      role="alert"
      class="text-madder my-2 text-2xl leading-snug"
    >
      {{ words }}
    </p>
    <p v-if="sender.problem" role="alert" class="text-madder">{{ sender.problem }}</p>
    <p v-if="sender.answer?.missing" class="text-madder">{{ sender.answer.missing }}</p>
    <p v-if="sender.answer?.elsewhere">Another show is being sent from here. End that one first.</p>
    <template v-if="!sender.isOn">
      <p class="text-ink-2 text-sm">
        Every encode of the plan runs once on the computer that Green Mantle runs on, and recordings
        beside it. Each send begins when you tick it. Who streams with another program ticks by
        hand.
        <template v-if="dropping.length > 0"
          >Where the plan lowers a bitrate ({{ listInWords(dropping) }}), frames are dropped from
          here instead: only an encode that the on-air window makes, for nobody who does not lower,
          changes its rate as it runs.</template
        >
      </p>
      <div class="mt-2 flex flex-wrap items-end gap-2">
        <SelectField v-model="target" class="w-52" label="Sends go to" :choices="targets" />
        <SelectField
          v-for="canvas in canvases"
          :key="canvas"
          v-model="chosen[canvas]"
          class="w-52"
          :label="`The ${canvas} canvas comes from`"
          :choices="inputChoices(canvas)"
        />
        <button
          v-if="target === 'stand-ins'"
          type="button"
          class="button"
          :disabled="sender.isWorking"
          @click="sender.practise()"
        >
          Set up their pages
        </button>
        <button
          type="button"
          class="button button-primary"
          :disabled="sender.isWorking || sender.answer?.missing !== null || sender.answer.elsewhere"
          @click="sender.begin(target, inputs())"
        >
          <Radio class="size-4" />
          {{ sender.isWorking ? 'Starting the encoders …' : 'Start the encoders' }}
        </button>
      </div>
    </template>
    <p v-if="isDrawnHere" class="mt-2 text-sm">
      <a class="link" :href="`/shows/${show.id}/on-air`" target="_blank" rel="opener"
        >Open the on-air window</a
      >: it draws the canvases, and has to stay open.
    </p>
    <div v-for="each in waiting" :key="each.canvas" class="mt-2 text-sm">
      <p>Point the program that draws the {{ each.canvas }} canvas here:</p>
      <div class="mt-1 flex flex-wrap gap-2">
        <CopiedText
          v-if="each.address"
          :text="each.address"
          what="server address"
          :of="`the ${each.canvas} canvas`"
        />
        <CopiedText
          v-if="each.streamKey"
          :text="each.streamKey"
          what="key"
          :of="`the ${each.canvas} canvas`"
        />
      </div>
    </div>
    <ModalDialog v-if="asks" title="Somebody is watching" @close="asks = false">
      <p>
        {{ liveNames.join(', ') }} {{ liveNames.length === 1 ? 'is' : 'are' }} on. Stopped here
        first, a page that has to be ended there shows a frozen picture.
      </p>
      <div class="mt-4 flex justify-end gap-2">
        <button type="button" class="button" @click="stop">Stop all sends</button>
        <button type="button" class="button button-primary" @click="asks = false">Go on</button>
      </div>
    </ModalDialog>
  </section>
</template>
