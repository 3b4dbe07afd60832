<script setup lang="ts">
import { wireSecond } from '@green-mantle/core/network'
import {
  audioSampleRatesHz,
  type DownscalingFilter,
  downscalingFilters,
  type Effort,
  efforts,
  type EncoderSettings,
  type EncodingProfile,
  encodingProfiles,
  type Pin,
  type RateControl,
  rateControls,
  type Rendition,
} from '@green-mantle/core/show'
import {
  kbpsFromBytesPerSecond,
  protocolNames,
  sampleRateInWords,
  judgedOnInWords,
  wholeNumber,
} from '@green-mantle/core/words'
import { Plus, Trash2 } from '@lucide/vue'
import { computed } from 'vue'
import QuantityField from '~/components/fields/QuantityField.vue'
import SelectField from '~/components/fields/SelectField.vue'
import { useDestinationEditing } from '~/components/destinations/destinationEditing'
import { useFitEditing } from './fitEditing'
import SendingFields from './SendingFields.vue'
import RouteField from './RouteField.vue'
import { encoderSentences } from '@green-mantle/core/plan'
import type { FitRow } from './rows'

const props = defineProps<{ row: FitRow }>()
const editing = useDestinationEditing()
const fit = useFitEditing()

function set(changes: Partial<Rendition>, pin: Pin | null = null): void {
  fit.set(props.row, changes, pin)
}
function setEncoder(changes: Partial<EncoderSettings>): void {
  set({ encoder: { ...props.row.rendition.encoder, ...changes } })
}

/** Which codecs a plan may choose from for this destination. */
const trusts = ['as the show says', 'H.264 only', 'newer ones too'] as const
type Trust = (typeof trusts)[number]
const trustOf = (newerCodecs: boolean | null): Trust =>
  newerCodecs === null ? 'as the show says' : newerCodecs ? 'newer ones too' : 'H.264 only'
function setTrust(trust: Trust): void {
  const { destination } = props.row
  const newerCodecs = trust === 'as the show says' ? null : trust === 'newer ones too'
  if (destination) fit.setPlan(destination.id, destination.name, { newerCodecs })
}

const asChoices = <Value extends string>(values: readonly Value[]) =>
  values.map((value) => ({ value, label: value }))
const sentences = computed(() => encoderSentences(props.row.rendition))
const effortChoices = asChoices(efforts)
const sampleRates = audioSampleRatesHz.map((value) => ({ value, label: sampleRateInWords(value) }))

const wireParts = computed(() => {
  const { destination, rendition } = props.row
  if (!destination) return []
  const second = wireSecond(rendition, destination.protocol, destination.path)
  return [
    { name: 'picture and sound', bytes: second.mediaBytes },
    { name: 'container and protocol', bytes: second.framingBytes },
    { name: 'encryption', bytes: second.encryptionBytes },
    { name: 'packets and retransmission, as counted', bytes: second.packetBytes },
  ].filter(({ bytes }) => bytes !== 0)
})
const scores = computed(() =>
  props.row.scores.map(
    ({ screen, score, word }) => `${Math.round(score)} ${word} ${judgedOnInWords(screen)}`,
  ),
)
</script>

<template>
  <div class="flex flex-col gap-2.5">
    <div class="grid grid-cols-3 gap-2 xl:grid-cols-4">
      <SelectField
        label="Effort"
        :model-value="row.rendition.effort"
        :choices="effortChoices"
        @update:model-value="set({ effort: $event as Effort }, 'effort')"
      />
      <QuantityField
        quantity="keyframe interval"
        label="Keyframe every"
        :model-value="row.rendition.keyframeIntervalSeconds"
        @update:model-value="set({ keyframeIntervalSeconds: $event })"
      />
      <QuantityField
        quantity="B-frames"
        label="B-frames"
        :model-value="row.rendition.bFrames"
        @update:model-value="set({ bFrames: $event })"
      />
      <SelectField
        label="Audio sample rate"
        :model-value="row.rendition.audioSampleRateHz"
        :choices="sampleRates"
        @update:model-value="set({ audioSampleRateHz: $event })"
      />
      <QuantityField
        quantity="audio bitrate"
        label="Audio bitrate"
        :model-value="row.rendition.audioBitrateKbps"
        @update:model-value="set({ audioBitrateKbps: $event })"
      />
      <SelectField
        label="Rate control"
        :model-value="row.rendition.encoder.rateControl"
        :choices="asChoices(rateControls)"
        @update:model-value="setEncoder({ rateControl: $event as RateControl })"
      />
      <SelectField
        v-if="row.rendition.codec === 'h264'"
        label="Profile"
        :model-value="row.rendition.encoder.profile"
        :choices="asChoices(encodingProfiles)"
        @update:model-value="setEncoder({ profile: $event as EncodingProfile })"
      />
      <QuantityField
        quantity="look-ahead"
        label="Look-ahead"
        :model-value="row.rendition.encoder.lookAheadFrames"
        @update:model-value="setEncoder({ lookAheadFrames: $event })"
      />
      <RouteField
        v-if="
          row.destination &&
          row.destination.connection !== 'hand-off' &&
          row.destination.connection !== 'relay'
        "
        :destination="row.destination"
      />
      <SelectField
        v-if="row.destination && row.rules.codecs.length > 1"
        label="Codecs to plan with"
        :model-value="trustOf(row.destination.plan.newerCodecs)"
        :choices="asChoices(trusts)"
        @update:model-value="setTrust($event)"
      />
      <SelectField
        label="Downscaling"
        :model-value="row.rendition.encoder.downscaling"
        :choices="asChoices(downscalingFilters)"
        @update:model-value="setEncoder({ downscaling: $event as DownscalingFilter })"
      />
    </div>
    <SendingFields
      v-if="
        row.destination &&
        row.destination.connection !== 'hand-off' &&
        row.destination.relayId === null
      "
      :destination="row.destination"
    />
    <ul class="text-ink-2 list-disc pl-4 text-xs">
      <li v-for="sentence in sentences" :key="sentence">{{ sentence }}</li>
    </ul>
    <div class="flex flex-wrap gap-1">
      <button
        v-if="row.destination && row.destination.renditions.length < row.rules.mostRenditions"
        type="button"
        class="button"
        @click="editing.addRendition(row.destination)"
      >
        <Plus class="size-4" /> Rendition
      </button>
      <button
        v-if="row.destination && row.destination.renditions.length > 1"
        type="button"
        class="button"
        @click="editing.removeRendition(row.destination, row.rendition.id)"
      >
        <Trash2 class="size-4" /> This rendition
      </button>
    </div>
    <dl
      v-if="row.destination && row.send"
      class="border-rule grid grid-cols-[1fr_auto] gap-x-3 border-t pt-2 text-xs"
    >
      <template v-for="part in wireParts" :key="part.name">
        <dt class="text-ink-2">{{ part.name }}</dt>
        <dd class="number text-right">{{ wholeNumber(kbpsFromBytesPerSecond(part.bytes)) }}</dd>
      </template>
      <dt class="font-semibold">
        on the wire, {{ protocolNames[row.destination.protocol] }}, kb/s
      </dt>
      <dd class="number text-right font-semibold">{{ wholeNumber(row.send.wireRateKbps) }}</dd>
    </dl>
    <p class="text-xs">Viewers see {{ scores.join(', ') }}.</p>
  </div>
</template>
