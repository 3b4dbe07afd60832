<script setup lang="ts">
import { type SoundCheck, soundChecks } from '@green-mantle/core/sound'
import { computed } from 'vue'
import StateMark from '~/components/frame/StateMark.vue'
import { useShowStore } from '~/stores/show'
import { useSoundEditing } from './soundEditing'

const store = useShowStore()
const editing = useSoundEditing()
const checks = computed(() => soundChecks(store.show))
const marks = { fails: 'fails', attention: 'attention', note: 'settled' } as const
const words = { fails: 'Will fail: ', attention: 'Look: ', note: '' } as const

function mend({ remedy }: SoundCheck): void {
  if (remedy) editing.change(remedy.soundId, remedy.changes, 'Mend')
}
</script>

<template>
  <section class="card p-4" aria-labelledby="sound-checks-title">
    <h3 id="sound-checks-title" class="mb-1 text-lg">What will be heard</h3>
    <p v-if="checks.length === 0 && store.show.sounds.length > 0" class="flex items-center gap-2">
      <StateMark state="settled" /> Nothing is heard twice, lost or kept by mistake.
    </p>
    <p v-else-if="checks.length === 0" class="text-ink-2">
      Add what is heard: a microphone, the computer, music.
    </p>
    <ul>
      <li
        v-for="check in checks"
        :key="`${check.kind} ${check.aboutId} ${check.words}`"
        class="border-rule flex items-start gap-2 border-b py-1.5 last:border-0"
      >
        <StateMark class="mt-1.5" :state="marks[check.tone]" />
        <span class="grow"
          ><span class="sr-only">{{ words[check.tone] }}</span>{{ check.words }}</span
        >
        <button v-if="check.remedy" type="button" class="button" @click="mend(check)">
          {{ check.remedy.words }}
        </button>
      </li>
    </ul>
  </section>
</template>
