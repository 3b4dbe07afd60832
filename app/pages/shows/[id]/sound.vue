<script setup lang="ts">
import { audioSampleRatesHz, soundKinds } from '@green-mantle/core/show'
import { sampleRateInWords } from '@green-mantle/core/words'
import { AudioLines, Plus, Square } from '@lucide/vue'
import { computed, ref, watch } from 'vue'
import { offerCommands } from '~/commands/commands'
import SelectField from '~/components/fields/SelectField.vue'
import AudioOfSends from '~/components/sound/AudioOfSends.vue'
import SoundChecks from '~/components/sound/SoundChecks.vue'
import SoundDetails from '~/components/sound/SoundDetails.vue'
import SoundMatrix from '~/components/sound/SoundMatrix.vue'
import { useSoundEditing } from '~/components/sound/soundEditing'
import { useHeardSounds } from '~/sound/heardSounds'
import { useLevels } from '~/sound/levels'
import { useShowEditing } from '~/composables/showEditing'
import { useShowStore } from '~/stores/show'

const store = useShowStore()
const { setMixSampleRate } = useShowEditing()
const editing = useSoundEditing()
const { inputs, isListening, levels, listen, stop } = useLevels(() => store.show.sounds)
const { note } = useHeardSounds(() => store.id)
watch(levels, note)

const chosenId = ref<string>()
const chosen = computed(
  () => store.show.sounds.find(({ id }) => id === chosenId.value) ?? store.show.sounds[0],
)
const kinds = soundKinds.filter((kind) => kind !== 'own sound')
const kindWords = { microphone: 'Microphone', 'computer sound': 'Computer sound', music: 'Music' }

/** The sources that can bring a sound of their own and do not yet. */
const soundingKinds = new Set(['camera', 'media file', 'guest', 'web page', 'screen', 'window'])
const silentSources = computed(() => {
  const taken = new Set(store.show.sounds.map(({ sourceId }) => sourceId))
  return store.show.sources.filter(({ id, kind }) => soundingKinds.has(kind) && !taken.has(id))
})
const ownChoices = computed(() => [
  { value: '', label: 'own sound of …' },
  ...silentSources.value.map(({ id, name }) => ({ value: id, label: name })),
])
const rates = audioSampleRatesHz.map((value) => ({ value, label: sampleRateInWords(value) }))

function addOwn(sourceId: string): void {
  const source = silentSources.value.find(({ id }) => id === sourceId)
  if (source) chosenId.value = editing.addOwn(source)
}

offerCommands([
  ...kinds.map((kind) => ({
    id: `sound.add.${kind}`,
    label: `Add: ${kindWords[kind]}`,
    group: 'Sound',
    ...(kind === 'microphone' ? { keys: 'n' } : {}),
    run: () => {
      chosenId.value = editing.add(kind)
    },
  })),
  {
    id: 'sound.listen',
    label: 'Show levels, or stop',
    group: 'Sound',
    run: () => (isListening.value ? stop() : void listen()),
  },
])
</script>

<template>
  <div class="roomy:h-full roomy:overflow-y-auto flex flex-col gap-3 p-4">
    <section class="card shrink-0 p-4" aria-labelledby="sounds-title">
      <div class="mb-2 flex flex-wrap items-end gap-2">
        <h2 id="sounds-title" class="grow text-2xl">What is heard</h2>
        <button
          v-for="kind in kinds"
          :key="kind"
          type="button"
          class="button"
          @click="chosenId = editing.add(kind)"
        >
          <Plus class="size-4" /> {{ kindWords[kind] }}
        </button>
        <SelectField
          v-if="silentSources.length > 0"
          class="w-40"
          hide-label
          label="Add a source’s own sound"
          model-value=""
          :choices="ownChoices"
          @update:model-value="addOwn"
        />
        <SelectField
          class="w-28"
          label="Mixed at"
          :model-value="store.show.mixSampleRateHz"
          :choices="rates"
          @update:model-value="setMixSampleRate"
        />
        <button v-if="isListening" type="button" class="button" @click="stop">
          <Square class="size-4" /> Stop listening
        </button>
        <button v-else type="button" class="button" @click="listen">
          <AudioLines class="size-4" /> Show levels
        </button>
      </div>
      <div v-if="store.show.sounds.length > 0" class="relative overflow-x-auto">
        <SoundMatrix
          v-model:chosen-id="chosenId"
          :sounds="store.show.sounds"
          :inputs="inputs"
          :levels="levels"
          :is-listening="isListening"
        />
      </div>
      <p v-else class="text-ink-2">
        Nothing is heard yet. Add a microphone, the computer’s sound or music, or a camera’s own.
      </p>
    </section>
    <div
      class="roomy:grid-cols-[minmax(0,1.2fr)_minmax(0,1fr)] grid grid-cols-[minmax(0,1fr)] items-start gap-3"
    >
      <AudioOfSends />
      <div class="flex flex-col gap-3">
        <SoundChecks />
        <SoundDetails v-if="chosen" :key="chosen.id" :sound="chosen" />
      </div>
    </div>
  </div>
</template>
