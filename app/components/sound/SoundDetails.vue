<script setup lang="ts">
import type { Sound } from '@green-mantle/core/show'
import { computed } from 'vue'
import OnSwitch from '~/components/fields/OnSwitch.vue'
import { useShowStore } from '~/stores/show'
import { useSoundEditing } from './soundEditing'

/** What only a person can know of a sound: what else carries it, and whether it may be kept. */
const props = defineProps<{ sound: Sound }>()
const store = useShowStore()
const editing = useSoundEditing()
const others = computed(() => store.show.sounds.filter(({ id }) => id !== props.sound.id))
const source = computed(() => store.show.sources.find(({ id }) => id === props.sound.sourceId))

function toggle(id: string): void {
  const { alsoHeardIn } = props.sound
  editing.change(props.sound.id, {
    alsoHeardIn: alsoHeardIn.includes(id)
      ? alsoHeardIn.filter((other) => other !== id)
      : [...alsoHeardIn, id],
  })
}
</script>

<template>
  <section class="card p-4" aria-labelledby="sound-title">
    <h3 id="sound-title" class="mb-1 text-lg">{{ sound.name }}</h3>
    <p v-if="source" class="text-ink-2 text-xs">The own sound of {{ source.name }}.</p>
    <fieldset v-if="others.length > 0" class="mt-2">
      <legend class="text-ink-2 mb-0.5 text-xs">It is also heard in</legend>
      <div class="flex flex-wrap gap-1">
        <button
          v-for="other in others"
          :key="other.id"
          type="button"
          class="button text-xs"
          :aria-pressed="sound.alsoHeardIn.includes(other.id)"
          @click="toggle(other.id)"
        >
          {{ other.name }}
        </button>
      </div>
    </fieldset>
    <div v-if="sound.kind === 'music'" class="mt-3 flex items-center gap-2">
      <OnSwitch
        label="This music may be kept"
        :model-value="sound.mayBeKept"
        @update:model-value="editing.change(sound.id, { mayBeKept: $event })"
      />
      <span aria-hidden="true">There is a right to keep it</span>
    </div>
  </section>
</template>
