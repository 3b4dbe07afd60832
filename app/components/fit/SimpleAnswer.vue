<script setup lang="ts">
import { pictureOf } from '@green-mantle/core/show'
import { bestAnswer, simpleAnswer, commonShapes } from '@green-mantle/core/plan'
import { scoreWord } from '@green-mantle/core/media'
import {
  kbpsInWords,
  mbpsInWords,
  rateUnits,
  renditionInWords,
  sampleRateInWords,
} from '@green-mantle/core/words'
import { computed, ref } from 'vue'
import NumberField from '~/components/fields/NumberField.vue'
import SelectField from '~/components/fields/SelectField.vue'
import { useShowStore } from '~/stores/show'

/** One upload, one place: the plain list of settings, without touching the show. */
const store = useShowStore()
const uploadKbps = ref(10_000)
const best = 'what looks best'
const wanted = ref<string>('1080p60')
const choices = [
  { value: best, label: best },
  ...commonShapes.map((shape) => ({
    value: renditionInWords(shape),
    label: renditionInWords(shape),
  })),
]
const looksBest = computed(() => bestAnswer(uploadKbps.value, pictureOf(store.show), 'desk'))
const answer = computed(() => {
  const shape = commonShapes.find((candidate) => renditionInWords(candidate) === wanted.value)
  return shape
    ? simpleAnswer(uploadKbps.value, shape, pictureOf(store.show), 'desk')
    : looksBest.value
})
const better = computed(() =>
  answer.value && looksBest.value && looksBest.value.score > answer.value.score + 0.5
    ? `${renditionInWords(looksBest.value.rendition)} would look better here: ${Math.round(looksBest.value.score)}.`
    : '',
)
const settings = computed(() => {
  if (!answer.value) return []
  const { rendition, level, wireKbps, usableKbps, score } = answer.value
  const { headroomKbps, headroomPercent } = answer.value
  return [
    ['Size and frame rate', renditionInWords(rendition)],
    ['Codec', `H.264, High profile, level ${level}`],
    ['Video bitrate', `${kbpsInWords(rendition.videoBitrateKbps)}, constant`],
    ['Keyframe every', `${rendition.keyframeIntervalSeconds} s, ${rendition.bFrames} B-frames`],
    [
      'Audio',
      `AAC stereo, ${kbpsInWords(rendition.audioBitrateKbps)}, ${sampleRateInWords(rendition.audioSampleRateHz)}`,
    ],
    ['On the wire', `${mbpsInWords(wireKbps)} of ${mbpsInWords(usableKbps)} usable`],
    ['Left alone', `${headroomPercent} % headroom, ${mbpsInWords(headroomKbps)}`],
    ['Viewers see', `${Math.round(score)}, ${scoreWord(score)}`],
  ]
})
</script>

<template>
  <div class="flex flex-col gap-2">
    <div class="grid grid-cols-2 gap-2">
      <NumberField
        v-model="uploadKbps"
        label="Upload I have"
        unit="kb/s"
        :units="rateUnits"
        :step="500"
        :min="100"
        :max="1000000"
      />
      <SelectField v-model="wanted" label="I want" :choices="choices" />
    </div>
    <dl v-if="answer" class="grid grid-cols-[auto_1fr] gap-x-3 gap-y-0.5">
      <template v-for="[name, value] in settings" :key="name">
        <dt class="text-ink-2">{{ name }}</dt>
        <dd class="text-right">{{ value }}</dd>
      </template>
    </dl>
    <p v-else class="text-madder">Not even the least bitrate of it fits.</p>
    <p v-if="better" class="text-ochre">{{ better }}</p>
  </div>
</template>
