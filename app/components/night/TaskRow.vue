<script setup lang="ts">
import type { OrderedTask } from '@green-mantle/core/night'
import { durationInWords } from '@green-mantle/core/words'
import { ArrowRight, Check } from '@lucide/vue'
import { computed } from 'vue'
import { useNightLogStore } from '~/stores/nightLog'
import { useRunSheetStore } from '~/stores/runSheet'
import { useShowStore } from '~/stores/show'
import { otherDay, timeOfDay } from './nightTimes'

/** One task of the night: when, what, whose, and whether it is done. */
const props = defineProps<{ task: OrderedTask; isDue: boolean }>()
const emit = defineEmits<{ edit: [] }>()
const show = useShowStore()
const sheet = useRunSheetStore()
const log = useNightLogStore()

const tick = computed(() => log.state.ticks.get(props.task.id))
const known = computed(() => sheet.known.get(props.task.id))
const isDone = computed(() => sheet.done(props.task))
const instant = (seconds: number): Date => new Date(sheet.startsAt.getTime() + seconds * 1000)
const begins = computed(() => instant(props.task.atSeconds))
const time = computed(() => timeOfDay(begins.value, show.show.timeZone))
const day = computed(() => otherDay(begins.value, show.show.timeZone, sheet.startsAt))
const expectedTime = computed(() => {
  const expected = sheet.expected.get(props.task.id)
  return sheet.isOn && expected !== undefined && expected > props.task.atSeconds + 60
    ? timeOfDay(instant(expected), show.show.timeZone)
    : null
})
const person = computed(
  () => show.show.runSheet.people.find(({ id }) => id === props.task.personId)?.name,
)
/** Who did it, who is to, or what is known of it. */
const aside = computed(() => {
  if (tick.value) return tick.value.who || 'done'
  if (known.value?.isDone) return 'checked'
  return person.value ?? ''
})
const bar = computed(() => {
  const { canvas } = props.task
  return canvas ? { landscape: 'bg-river', vertical: 'bg-foxglove' }[canvas] : 'bg-transparent'
})
const tickLabel = computed(() => {
  if (tick.value) return `Take back: ${props.task.title}`
  return known.value?.isDone ? `Done by itself: ${props.task.title}` : `Done: ${props.task.title}`
})
function toggle(): void {
  if (tick.value) sheet.untick(props.task)
  else sheet.tick(props.task)
}
</script>

<template>
  <li
    class="border-rule grid grid-cols-[auto_1.75rem_3px_minmax(0,1fr)_auto] items-start gap-x-2 border-b py-1 pr-1 pl-1"
    :class="isDue ? 'bg-leaf rounded-md' : ''"
    :data-task="task.id"
    :aria-current="isDue ? 'step' : undefined"
  >
    <span class="number text-ink-2 pt-1 text-xs" :class="isDue ? 'text-ink font-bold' : ''">
      <span v-if="day" class="block">{{ day }}</span>{{ time }}
      <span v-if="expectedTime" class="text-ochre block" :title="`Expected at ${expectedTime}`">{{
        expectedTime
      }}</span>
    </span>
    <button
      type="button"
      class="grid size-7 place-items-center rounded-full"
      :aria-label="tickLabel"
      :aria-pressed="isDone"
      :disabled="!tick && known?.isDone"
      @click="toggle"
    >
      <span
        class="grid size-5 place-items-center rounded-full border"
        :class="isDone ? 'border-moss bg-moss text-on-moss' : 'border-edge'"
      >
        <Check v-if="isDone" class="size-3.5" />
        <ArrowRight v-else-if="isDue" class="size-3.5" />
      </span>
    </button>
    <span class="h-full min-h-5 rounded" :class="bar" aria-hidden="true" />
    <button
      type="button"
      class="min-w-0 rounded py-0.5 text-left hover:underline"
      :class="[isDue ? 'font-semibold' : '', isDone ? 'text-ink-2' : '']"
      :title="`Change: ${task.title}`"
      @click="emit('edit')"
    >
      {{ task.title }}
      <span v-if="task.tooLateFor.length > 0" class="text-ochre block text-xs">
        After {{ task.tooLateFor[0] }}, which waits for it
      </span>
      <span v-else-if="known && !isDone && known.words" class="text-ink-2 block text-xs">{{
        known.words
      }}</span>
      <span v-else-if="tick?.knowingly" class="text-ochre block text-xs">out of order</span>
    </button>
    <span class="text-ink-2 max-w-20 truncate pt-1 text-xs" :title="aside">{{ aside }}</span>
    <span class="sr-only">{{ durationInWords(task.durationSeconds) }}</span>
  </li>
</template>
