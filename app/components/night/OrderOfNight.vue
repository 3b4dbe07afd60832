<script setup lang="ts">
import type { OrderedTask } from '@green-mantle/core/night'
import { nightPhases } from '@green-mantle/core/show'
import { nightPhaseNames } from '@green-mantle/core/words'
import { Plus, Printer, Smartphone, Users } from '@lucide/vue'
import { computed, nextTick, ref, watch } from 'vue'
import { RouterLink } from 'vue-router'
import { useInTurn } from '~/composables/inTurn'
import { useRunSheetStore } from '~/stores/runSheet'
import { useShowStore } from '~/stores/show'
import OrderChanges from './OrderChanges.vue'
import TaskRow from './TaskRow.vue'

/** Everything that is done on the night, by phase. */
const emit = defineEmits<{ edit: [task: OrderedTask]; add: []; people: []; phone: [] }>()
const show = useShowStore()
const sheet = useRunSheetStore()

const tasksPerFrame = 12
const inOrder = computed(() =>
  nightPhases.flatMap((phase) => sheet.order.tasks.filter((task) => task.phase === phase)),
)
const shown = useInTurn(() => inOrder.value, tasksPerFrame)
const phases = computed(() =>
  nightPhases
    .map((phase) => {
      const all = inOrder.value.filter((task) => task.phase === phase)
      const tasks = shown.value.filter((task) => task.phase === phase)
      return { phase, tasks, count: all.length, doneCount: all.filter(sheet.done).length }
    })
    .filter(({ tasks }) => tasks.length > 0),
)
const dueId = computed(() => (sheet.isOn ? sheet.due.now[0]?.id : undefined))

// What is due stays in sight as the night goes on.
const list = ref<HTMLElement>()
watch(
  [dueId, () => shown.value.length],
  async ([id]) => {
    await nextTick()
    if (id) list.value?.querySelector(`[data-task="${id}"]`)?.scrollIntoView({ block: 'nearest' })
  },
  { immediate: true },
)
</script>

<template>
  <section class="card flex min-h-0 flex-col p-3" aria-labelledby="order-title">
    <h2 id="order-title" class="text-lg">The order of the night</h2>
    <div class="mt-1 flex flex-wrap gap-1.5">
      <button type="button" class="button" @click="emit('add')">
        <Plus class="size-4" /> Task
      </button>
      <button type="button" class="button" @click="emit('people')">
        <Users class="size-4" /> People
      </button>
      <RouterLink class="button" :to="`/run-sheets/${show.id}`">
        <Printer class="size-4" /> Print
      </RouterLink>
      <button type="button" class="button" @click="emit('phone')">
        <Smartphone class="size-4" /> Phone
      </button>
    </div>
    <OrderChanges />
    <div
      ref="list"
      class="roomy:max-h-none relative max-h-[70dvh] min-h-0 grow overflow-y-auto"
      tabindex="0"
      role="region"
      aria-label="Tasks"
    >
      <section v-for="{ phase, tasks, count, doneCount } in phases" :key="phase" class="mt-2">
        <h3 class="flex items-center gap-2 text-sm font-semibold">
          {{ nightPhaseNames[phase] }}
          <span class="border-rule grow border-t" aria-hidden="true" />
          <span class="number text-ink-2 text-xs font-normal">{{ doneCount }}/{{ count }}</span>
        </h3>
        <ol>
          <TaskRow
            v-for="task in tasks"
            :key="task.id"
            :task="task"
            :is-due="task.id === dueId"
            @edit="emit('edit', task)"
          />
        </ol>
      </section>
    </div>
  </section>
</template>
