<script setup lang="ts">
import { usableUpload } from '@green-mantle/core/network'
import { countInWords, mbpsInWords } from '@green-mantle/core/words'
import { computed, onMounted, ref, shallowRef } from 'vue'
import { fetchLines, type LineOfShow } from '~/api/line'
import { wordsFor } from '~/api/problem'
import ModalDialog from '~/components/frame/ModalDialog.vue'
import { useShowStore } from '~/stores/show'
import { useLineEditing } from './lineEditing'

/** Lines that were measured for other shows; a copy of one is brought in. */
const emit = defineEmits<{ close: [] }>()
const store = useShowStore()
const editing = useLineEditing()
// Shallow, so that what is brought in is the line itself and not a watched copy.
const found = shallowRef<LineOfShow[]>()
const problem = ref('')
const others = computed(() => found.value?.filter(({ showId }) => showId !== store.id) ?? [])

onMounted(async () => {
  try {
    found.value = await fetchLines()
  } catch (error) {
    problem.value = wordsFor(error)
  }
})

function bring({ line }: LineOfShow): void {
  editing.bring(line)
  emit('close')
}
const about = ({ line }: LineOfShow): string =>
  `${countInWords(line.samples.length, 'measurement')}, ${mbpsInWords(usableUpload(line).usableKbps)} usable`
</script>

<template>
  <ModalDialog
    title="Bring a line from another show"
    description="A copy comes in with its measurements; the other show keeps its own."
    @close="emit('close')"
  >
    <p v-if="problem" role="alert" class="text-madder">{{ problem }}</p>
    <p v-else-if="!found" role="status">Looking …</p>
    <p v-else-if="others.length === 0">No other show has a line.</p>
    <ul class="flex flex-col gap-1.5">
      <li v-for="other in others" :key="`${other.showId} ${other.line.id}`">
        <button type="button" class="button w-full justify-between!" @click="bring(other)">
          <span class="truncate"
            ><span class="font-semibold">{{ other.line.name }}</span> of {{ other.showTitle }}</span
          >
          <span class="text-ink-2 text-xs">{{ about(other) }}</span>
        </button>
      </li>
    </ul>
  </ModalDialog>
</template>
