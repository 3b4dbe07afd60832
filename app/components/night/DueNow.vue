<script setup lang="ts">
import { durationInWords } from '@green-mantle/core/words'
import { computed } from 'vue'
import { useRunSheetStore } from '~/stores/runSheet'
import { useSenderStore } from '~/stores/sender'
import { useShowStore } from '~/stores/show'
import { dayAndTime } from './nightTimes'

/** What is to be done now, readable from across the room, with its buttons; as one line beside them where it is a band. */
defineProps<{ isBand?: boolean }>()
const show = useShowStore()
const sheet = useRunSheetStore()
const sender = useSenderStore()

const task = computed(() => sheet.due.now[0] ?? null)
const more = computed(() => sheet.due.now.length - 1)
const next = computed(() => sheet.due.next)
const nameOf = (personId: string | null): string =>
  show.show.runSheet.people.find(({ id }) => id === personId)?.name ?? ''
const instant = (seconds: number): string =>
  dayAndTime(new Date(sheet.startsAt.getTime() + seconds * 1000), show.show.timeZone, sheet.now)
const lateSeconds = computed(() => (task.value ? sheet.nowSeconds - task.value.atSeconds : 0))
const about = computed(() => {
  if (!task.value) return ''
  const person = nameOf(task.value.personId)
  const late = lateSeconds.value > 60 ? `${durationInWords(lateSeconds.value)} late` : ''
  return ['Now', person, late].filter(Boolean).join(' · ')
})
const doneWords = computed(() => {
  const { stage, id } = task.value ?? {}
  if (id?.startsWith('start-')) return 'It is live there'
  if (stage === 'sending')
    return sender.canSend(task.value?.destinationId ?? '') ? 'Send now' : 'It is sending'
  if (stage === 'arrived') return 'It arrived'
  if (stage === 'live') return 'Seen live'
  return 'Done'
})
/** What may be wrong at this stage. */
const trouble = computed(() => {
  const { stage, kind } = task.value ?? {}
  if (kind !== 'confirm' && stage !== 'live') return null
  return stage === 'arrived' ? ('not arriving' as const) : ('frozen' as const)
})
function inTrouble(): void {
  const destination = show.show.destinations.find(({ id }) => id === task.value?.destinationId)
  if (destination && trouble.value)
    sheet.say({
      kind: 'trouble',
      destinationId: destination.id,
      name: destination.name,
      trouble: trouble.value,
    })
}
</script>

<template>
  <section
    class="bg-moss text-on-moss flex gap-2 rounded-lg"
    :class="isBand ? 'flex-wrap items-center justify-between px-4 py-2' : 'flex-col p-4'"
    aria-label="Due now"
    aria-live="polite"
  >
    <template v-if="task">
      <div class="min-w-0">
        <p>{{ about }}</p>
        <h2 class="leading-tight" :class="isBand ? 'text-xl' : 'text-4xl'">{{ task.title }}</h2>
      </div>
      <p v-if="task.hint && !isBand">{{ task.hint }}</p>
      <div class="flex flex-wrap items-center gap-3">
        <button
          type="button"
          class="bg-sheet text-ink rounded-md px-5 font-bold"
          :class="isBand ? 'py-1.5' : 'min-h-11 py-2 text-lg'"
          @click="sheet.tick(task)"
        >
          {{ doneWords }}
        </button>
        <button
          v-if="trouble"
          type="button"
          class="border-on-moss rounded-md border px-4"
          :class="isBand ? 'py-1.5' : 'min-h-11 py-2'"
          @click="inTrouble"
        >
          {{ trouble === 'not arriving' ? 'Not arriving' : 'Something is wrong' }}
        </button>
        <span v-if="more > 0" class="ml-auto">and {{ more }} more now</span>
      </div>
    </template>
    <div v-else>
      <p>Nothing is due now</p>
      <h2 class="leading-tight" :class="isBand ? 'text-xl' : 'text-3xl'">
        <template v-if="next">
          Next, {{ instant(sheet.expected.get(next.id) ?? next.atSeconds) }}: {{ next.title }}
        </template>
        <template v-else>Everything is done</template>
      </h2>
    </div>
    <p v-if="sheet.due.late.length > 0">Left undone before: {{ sheet.due.late.length }}</p>
  </section>
</template>
