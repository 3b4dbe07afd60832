<script setup lang="ts">
import type { OrderedTask } from '@green-mantle/core/night'
import { maxOwnTasks, nightPhases, taskKinds } from '@green-mantle/core/show'
import { DateTime } from 'luxon'
import { computed, reactive } from 'vue'
import DateTimeField from '~/components/fields/DateTimeField.vue'
import SelectField from '~/components/fields/SelectField.vue'
import TextField from '~/components/fields/TextField.vue'
import ModalDialog from '~/components/frame/ModalDialog.vue'
import { useRunSheetStore } from '~/stores/runSheet'
import { useShowStore } from '~/stores/show'
import { useRunSheetEditing } from './runSheetEditing'

/** Changes one task, or adds one where none is given. */
const props = defineProps<{ taskId: string | null }>()
const emit = defineEmits<{ close: [] }>()
const show = useShowStore()
const sheet = useRunSheetStore()
const editing = useRunSheetEditing()

const task = computed<OrderedTask | undefined>(() =>
  sheet.order.tasks.find(({ id }) => id === props.taskId),
)
const nobody = '' as const
const people = computed(() => [
  { value: nobody as string, label: 'nobody in particular' },
  ...show.show.runSheet.people.map(({ id, name }) => ({ value: id, label: name })),
])
const plain = <Value extends string>(values: readonly Value[]) =>
  values.map((value) => ({ value, label: value }))

const wallClockOf = (seconds: number): string =>
  DateTime.fromJSDate(new Date(sheet.startsAt.getTime() + seconds * 1000), {
    zone: show.show.timeZone,
  }).toFormat("yyyy-MM-dd'T'HH:mm")
const secondsOf = (wallClock: string): number =>
  (DateTime.fromISO(wallClock, { zone: show.show.timeZone }).toMillis() -
    sheet.startsAt.getTime()) /
  1000

const isFull = computed(() => show.show.runSheet.ownTasks.length >= maxOwnTasks)
/** What a new task will be. */
const draft = reactive({
  title: '',
  kind: 'act' as (typeof taskKinds)[number],
  phase: 'before' as (typeof nightPhases)[number],
  atSeconds: -1800,
  personId: nobody as string,
})
function add(): void {
  const { personId, title, ...rest } = draft
  if (title.trim() === '') return
  editing.addTask({
    ...rest,
    title: title.trim(),
    personId: personId || null,
    destinationId: null,
  })
  emit('close')
}
function leaveOut(): void {
  if (task.value) editing.leaveOut(task.value)
  emit('close')
}
</script>

<template>
  <ModalDialog v-if="taskId !== null" title="A task of the night" @close="emit('close')">
    <template v-if="task">
      <p v-if="task.hint" class="text-ink-2 mb-3">{{ task.hint }}</p>
      <div class="grid grid-cols-2 gap-3">
        <TextField
          class="col-span-2"
          label="What"
          required
          :model-value="task.title"
          @update:model-value="editing.changeTask(task, { title: $event })"
        />
        <DateTimeField
          label="When"
          required
          :model-value="wallClockOf(task.atSeconds)"
          @update:model-value="editing.changeTask(task, { atSeconds: secondsOf($event) })"
        />
        <SelectField
          label="Whose"
          :model-value="task.personId ?? nobody"
          :choices="people"
          @update:model-value="editing.changeTask(task, { personId: $event || null })"
        />
      </div>
      <p v-if="task.waitsFor.length > 0" class="mt-3 text-sm">
        Comes after:
        {{
          task.waitsFor
            .map(({ id }) => sheet.order.tasks.find((other) => other.id === id)?.title)
            .filter(Boolean)
            .join('; ')
        }}
      </p>
      <div class="mt-4 flex flex-wrap justify-end gap-2">
        <button
          v-if="task.isMoved"
          type="button"
          class="button"
          @click="editing.changeTask(task, { atSeconds: null })"
        >
          Back to its own time
        </button>
        <button type="button" class="button" @click="leaveOut">
          {{ task.isOwn ? 'Remove it' : 'Leave it out' }}
        </button>
        <button type="button" class="button button-primary" @click="emit('close')">Good</button>
      </div>
    </template>
    <p v-else>It is not in the order any more.</p>
  </ModalDialog>
  <ModalDialog v-else title="A task of your own" @close="emit('close')">
    <form class="grid grid-cols-2 gap-3" @submit.prevent="add">
      <label class="col-span-2 flex flex-col gap-0.5">
        <span class="text-ink-2 text-xs">What</span>
        <input v-model="draft.title" class="field" maxlength="200" required autocomplete="off" />
      </label>
      <SelectField v-model="draft.phase" label="Phase" :choices="plain(nightPhases)" />
      <SelectField v-model="draft.kind" label="Kind" :choices="plain(taskKinds)" />
      <DateTimeField
        label="When"
        required
        :model-value="wallClockOf(draft.atSeconds)"
        @update:model-value="draft.atSeconds = secondsOf($event)"
      />
      <SelectField v-model="draft.personId" label="Whose" :choices="people" />
      <div class="col-span-2 flex justify-end">
        <p v-if="isFull" class="text-ochre mr-auto">
          There are {{ maxOwnTasks }} tasks of your own, as many as a night may have. Remove one
          first.
        </p>
        <button type="submit" class="button button-primary" :disabled="isFull">Add it</button>
      </div>
    </form>
    <template v-if="sheet.order.leftOut.length > 0">
      <h3 class="mt-4 font-semibold">Left out</h3>
      <ul>
        <li
          v-for="each in sheet.order.leftOut"
          :key="each.id"
          class="flex items-center justify-between gap-2 py-0.5"
        >
          {{ each.title }}
          <button type="button" class="button" @click="editing.bringBack(each.id, each.title)">
            Bring back
          </button>
        </li>
      </ul>
    </template>
  </ModalDialog>
</template>
