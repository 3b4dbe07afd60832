<script setup lang="ts">
import { priorityLimits } from '@green-mantle/core/show'
import { computed } from 'vue'
import SelectField from '~/components/fields/SelectField.vue'
import { useFitEditing } from './fitEditing'
import type { FitRow } from './rows'

/** How much a row matters to the plan, from 1 to 5, or that it has to be kept whatever happens. */
const props = defineProps<{ row: FitRow }>()
const editing = useFitEditing()
const mustKeep = 'must'
const count = priorityLimits.max - priorityLimits.min + 1

const choices = [
  ...Array.from({ length: count }, (_, index) => {
    const priority = `${priorityLimits.min + index}`
    return { value: priority, label: priority }
  }),
  ...Array.from({ length: count }, (_, index) => {
    const priority = priorityLimits.min + index
    return { value: `${mustKeep} ${priority}`, label: `${priority}, keep` }
  }),
]
const value = computed(() => {
  const { priority, mustKeep: isKept } = props.row.plan
  return isKept ? `${mustKeep} ${priority}` : `${priority}`
})

function set(chosen: string): void {
  const owner = props.row.destination ?? props.row.recording
  if (!owner) return
  editing.setPlan(owner.id, owner.name, {
    priority: Number(chosen.split(' ').at(-1)),
    mustKeep: chosen.startsWith(mustKeep),
  })
}
</script>

<template>
  <SelectField
    hide-label
    class="w-19"
    :label="`How much ${row.name} matters, 1 to 5`"
    :model-value="value"
    :choices="choices"
    @update:model-value="set($event as string)"
  />
</template>
