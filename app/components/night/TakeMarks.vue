<script setup lang="ts">
import { cutsOf } from '@green-mantle/core/night'
import { Download, Scissors } from '@lucide/vue'
import { computed, ref } from 'vue'
import SelectField from '~/components/fields/SelectField.vue'
import { wordsFor } from '~/api/problem'
import { cutRecordings } from '~/api/sender'
import { download, fileNameFor } from '~/composables/files'
import { useShowStore } from '~/stores/show'
import { useWrappedNight } from './wrappedNight'

/** The marks of the night, taken away as files. */
const show = useShowStore()
const { state, wrapped, isLast } = useWrappedNight()

/** Where the times are counted from: the start of the show, or of a recording that ran before it. */
const origins = computed(() => {
  const at = (taskId: string): string | undefined => state.value.ticks.get(taskId)?.at
  const begun = at('on-air') ?? state.value.begunAt ?? ''
  return [
    { value: begun, label: 'the start of the show' },
    ...show.show.recordings.flatMap(({ id, name }) => {
      const started = at(`record-${id}`)
      return started ? [{ value: started, label: `the start of ${name}` }] : []
    }),
  ]
})
const chosen = ref('')
const from = computed(() =>
  origins.value.some(({ value }) => value === chosen.value)
    ? chosen.value
    : (origins.value[0]?.value ?? ''),
)
const counted = computed(() => ({
  marks: state.value.marks,
  from: from.value,
  until:
    state.value.ticks.get('last-scene')?.at ??
    state.value.overAt ??
    state.value.events.at(-1)?.at ??
    '',
  title: show.show.title,
}))
const sceneName = (id: string): string | undefined =>
  show.show.scenes.find((scene) => scene.id === id)?.name

type Kind = 'vtt' | 'ffmeta' | 'txt' | 'csv' | 'json'
const text = 'text/plain;charset=utf-8'
// What writes a file is loaded by name when it is first asked for: by all names at once it would bring the schemas.
const takers: Record<Kind, (name: string) => Promise<void>> = {
  async vtt(name) {
    const { writeVttChapters } = await import('@green-mantle/core/formats')
    download(`${name} marks.vtt`, 'text/vtt;charset=utf-8', writeVttChapters(counted.value))
  },
  async ffmeta(name) {
    const { writeMetadataChapters } = await import('@green-mantle/core/formats')
    download(`${name} marks.ffmeta`, text, writeMetadataChapters(counted.value))
  },
  async txt(name) {
    const { writeTimesList } = await import('@green-mantle/core/formats')
    download(`${name} marks.txt`, text, writeTimesList(counted.value))
  },
  async csv(name) {
    const { writeMarksCsv } = await import('@green-mantle/core/formats')
    download(`${name} marks.csv`, 'text/csv;charset=utf-8', writeMarksCsv(counted.value, sceneName))
  },
  async json(name) {
    const { writeWrapUp } = await import('@green-mantle/core/formats')
    download(`${name} wrap-up.json`, 'application/json', writeWrapUp(show.show, wrapped.value))
  },
}
const take = (kind: Kind): Promise<void> => takers[kind](fileNameFor(show.show.title))
const kinds: readonly { kind: Kind; label: string }[] = [
  { kind: 'vtt', label: 'WebVTT chapters' },
  { kind: 'ffmeta', label: 'FFmpeg chapters' },
  { kind: 'txt', label: 'List of times' },
  { kind: 'csv', label: 'Table (CSV)' },
  { kind: 'json', label: 'Wrap-up (JSON)' },
]

/** Where stretches were marked and a recording was closed, they can be cut out of it. */
const cuts = computed(() => (isLast.value ? cutsOf(state.value) : []))
const isCutting = ref(false)
const cutWords = ref('')
async function cut(): Promise<void> {
  if (!show.id) return
  isCutting.value = true
  cutWords.value = ''
  try {
    const { files, problems } = await cutRecordings(show.id)
    cutWords.value = [
      ...(files.length > 0 ? [`On the computer that records: ${files.join('; ')}.`] : []),
      ...problems,
    ].join(' ')
  } catch (error) {
    cutWords.value = wordsFor(error)
  } finally {
    isCutting.value = false
  }
}
</script>

<template>
  <div class="my-2 flex flex-wrap items-end gap-2">
    <SelectField
      class="w-56"
      label="Counted from"
      :model-value="from"
      :choices="origins"
      @update:model-value="chosen = $event"
    />
    <button
      v-for="{ kind, label } in kinds"
      :key="kind"
      type="button"
      class="button"
      @click="take(kind)"
    >
      <Download class="size-4" /> {{ label }}
    </button>
    <button
      v-if="cuts.length > 0"
      type="button"
      class="button"
      :disabled="isCutting"
      title="Copied from the recording, nothing encoded again: each begins at the keyframe before"
      @click="cut"
    >
      <Scissors class="size-4" />
      {{ isCutting ? 'Cutting …' : `Cut marked stretches out (${cuts.length})` }}
    </button>
    <p class="text-ink-2 basis-full text-sm break-words" role="status">{{ cutWords }}</p>
  </div>
</template>
