<script setup lang="ts">
import {
  audioCodecs,
  audioSampleRatesHz,
  codecs,
  type Destination,
  framesPerSecondChoices,
  type Rules,
  type Size,
  commonCanvasSizes,
} from '@green-mantle/core/show'
import { levelsOf } from '@green-mantle/core/media'
import {
  audioCodecNames,
  codecNames,
  sampleRateInWords,
  sizeInWords,
} from '@green-mantle/core/words'
import { ClipboardPaste, Plus, Trash2 } from '@lucide/vue'
import { computed, defineAsyncComponent, ref } from 'vue'
import ChoiceSet from '~/components/fields/ChoiceSet.vue'
import NumberField from '~/components/fields/NumberField.vue'
import QuantityField from '~/components/fields/QuantityField.vue'
import SelectField from '~/components/fields/SelectField.vue'
import SizeFields from '~/components/fields/SizeFields.vue'
import { useDestinationEditing } from './destinationEditing'

const HelpPageDialog = defineAsyncComponent(() => import('./HelpPageDialog.vue'))

const props = defineProps<{ destination: Destination }>()
const isReading = ref(false)
const editing = useDestinationEditing()
const rules = computed(() => props.destination.rules)

function set(changes: Partial<Rules>): void {
  editing.change(props.destination.id, 'Change the rules of', (destination) => {
    Object.assign(destination.rules, changes)
  })
}

const usual = computed<readonly Size[]>(() => commonCanvasSizes[props.destination.canvas])
const largest = computed<Size>(() => ({ ...(usual.value[0] as Size) }))

function setSizeType(type: Rules['sizes']['type']): void {
  if (type === rules.value.sizes.type) return
  set({
    sizes: type === 'up to' ? { type, ...largest.value } : { type, sizes: [largest.value] },
  })
}

function setListedSize(index: number, changed: Size): void {
  if (rules.value.sizes.type !== 'one of') return
  const sizes = rules.value.sizes.sizes.map((size, at) => (at === index ? changed : size))
  set({ sizes: { type: 'one of', sizes } })
}

function addListedSize(): void {
  if (rules.value.sizes.type !== 'one of') return
  const taken = new Set(rules.value.sizes.sizes.map(sizeInWords))
  const next = usual.value.find((size) => !taken.has(sizeInWords(size))) ?? largest.value
  set({ sizes: { type: 'one of', sizes: [...rules.value.sizes.sizes, { ...next }] } })
}

function removeListedSize(index: number): void {
  if (rules.value.sizes.type !== 'one of') return
  set({ sizes: { type: 'one of', sizes: rules.value.sizes.sizes.filter((_, at) => at !== index) } })
}

function setFrameRateType(type: Rules['framesPerSecond']['type']): void {
  if (type === rules.value.framesPerSecond.type) return
  set({ framesPerSecond: type === 'up to' ? { type, most: 60 } : { type, choices: [30] } })
}

const sizeTypes = [
  { value: 'up to', label: 'any size up to' },
  { value: 'one of', label: 'one of these' },
] as const
const rateTypes = [
  { value: 'up to', label: 'any rate up to' },
  { value: 'one of', label: 'one of these' },
] as const
const rates = framesPerSecondChoices.map((value) => ({ value, label: `${value}` }))
const codecChoices = codecs.map((value) => ({ value, label: codecNames[value] }))
const sampleRates = audioSampleRatesHz.map((value) => ({ value, label: sampleRateInWords(value) }))
const audioCodecChoices = audioCodecs.map((value) => ({ value, label: audioCodecNames[value] }))
const channelChoices = [
  { value: 1, label: 'mono only' },
  { value: 2, label: 'mono or stereo' },
] as const
const backupChoices = ['none', 'offered'].map((value) => ({ value, label: value }))
const ladders = ([1, 2, 3] as const).map((value) => ({
  value,
  label: value === 1 ? 'one rendition' : `a ladder of up to ${value}`,
}))
const levels = (codec: (typeof codecs)[number]) => [
  { value: '', label: 'any level' },
  ...levelsOf(codec).map((value) => ({ value, label: `up to ${value}` })),
]
</script>

<template>
  <div class="flex flex-col gap-3">
    <button type="button" class="button self-start" @click="isReading = true">
      <ClipboardPaste class="size-4" /> Paste what its help page says …
    </button>
    <HelpPageDialog v-if="isReading" :destination="destination" @close="isReading = false" />
    <div class="grid grid-cols-2 gap-2">
      <SelectField
        label="Sizes"
        :model-value="rules.sizes.type"
        :choices="sizeTypes"
        @update:model-value="setSizeType($event as Rules['sizes']['type'])"
      />
      <SizeFields
        v-if="rules.sizes.type === 'up to'"
        :model-value="rules.sizes"
        @update:model-value="set({ sizes: { type: 'up to', ...$event } })"
      />
      <div v-else class="flex flex-col gap-1">
        <div
          v-for="(size, index) in rules.sizes.sizes"
          :key="index"
          class="grid grid-cols-[1fr_auto] items-end gap-1"
        >
          <SizeFields
            :hide-labels="index > 0"
            :model-value="size"
            @update:model-value="setListedSize(index, $event)"
          />
          <button
            type="button"
            class="button button-quiet px-1!"
            :aria-label="`Remove the size ${sizeInWords(size)}`"
            :disabled="rules.sizes.sizes.length === 1"
            @click="removeListedSize(index)"
          >
            <Trash2 class="size-4" />
          </button>
        </div>
        <button
          type="button"
          class="button self-start"
          :disabled="rules.sizes.sizes.length >= 12"
          @click="addListedSize"
        >
          <Plus class="size-4" /> Size
        </button>
      </div>
      <SelectField
        label="Frame rates"
        :model-value="rules.framesPerSecond.type"
        :choices="rateTypes"
        @update:model-value="setFrameRateType($event as Rules['framesPerSecond']['type'])"
      />
      <SelectField
        v-if="rules.framesPerSecond.type === 'up to'"
        label="Frame rate, fps"
        :model-value="rules.framesPerSecond.most"
        :choices="rates"
        @update:model-value="set({ framesPerSecond: { type: 'up to', most: $event } })"
      />
      <ChoiceSet
        v-else
        label="Frame rates, fps"
        :model-value="rules.framesPerSecond.choices"
        :choices="rates"
        @update:model-value="set({ framesPerSecond: { type: 'one of', choices: $event } })"
      />
    </div>
    <ChoiceSet
      label="Codecs"
      :model-value="rules.codecs"
      :choices="codecChoices"
      @update:model-value="set({ codecs: $event })"
    />
    <div class="grid grid-cols-3 gap-2">
      <SelectField
        v-for="codec in rules.codecs"
        :key="codec"
        :label="`${codecNames[codec]} level`"
        :model-value="rules.highestLevel[codec] ?? ''"
        :choices="levels(codec)"
        @update:model-value="
          set({ highestLevel: { ...rules.highestLevel, [codec]: $event || null } })
        "
      />
    </div>
    <div class="grid grid-cols-2 gap-2">
      <QuantityField
        quantity="video bitrate"
        label="Least video"
        optional
        :model-value="rules.leastVideoBitrateKbps"
        @update:model-value="set({ leastVideoBitrateKbps: $event })"
      />
      <QuantityField
        quantity="video bitrate"
        label="Most video"
        :model-value="rules.mostVideoBitrateKbps"
        @update:model-value="set({ mostVideoBitrateKbps: $event })"
      />
      <QuantityField
        quantity="keyframe interval"
        label="Keyframe at least every"
        :model-value="rules.longestKeyframeIntervalSeconds"
        @update:model-value="
          set({
            longestKeyframeIntervalSeconds: $event,
          })
        "
      />
      <QuantityField
        quantity="B-frames"
        label="Most B-frames"
        :model-value="rules.mostBFrames"
        @update:model-value="set({ mostBFrames: $event })"
      />
      <QuantityField
        quantity="audio bitrate"
        label="Most audio"
        :model-value="rules.mostAudioBitrateKbps"
        @update:model-value="set({ mostAudioBitrateKbps: $event })"
      />
      <ChoiceSet
        label="Audio sample rates"
        :model-value="rules.audioSampleRatesHz"
        :choices="sampleRates"
        @update:model-value="set({ audioSampleRatesHz: $event })"
      />
      <SelectField
        label="Takes"
        :model-value="rules.mostRenditions"
        :choices="ladders"
        @update:model-value="set({ mostRenditions: $event })"
      />
      <ChoiceSet
        label="Audio codecs"
        :model-value="rules.audioCodecs"
        :choices="audioCodecChoices"
        @update:model-value="set({ audioCodecs: $event })"
      />
      <SelectField
        label="Audio channels"
        :model-value="rules.mostAudioChannels"
        :choices="channelChoices"
        @update:model-value="set({ mostAudioChannels: $event })"
      />
      <SelectField
        label="Backup ingest"
        :model-value="rules.offersBackup ? 'offered' : 'none'"
        :choices="backupChoices"
        @update:model-value="set({ offersBackup: $event === 'offered' })"
      />
      <NumberField
        v-if="destination.connection === 'relay'"
        label="Feeds at most"
        :min="0"
        :max="50"
        :model-value="rules.mostFed"
        @update:model-value="set({ mostFed: $event })"
      />
    </div>
  </div>
</template>
