<script setup lang="ts">
import { changeInWords } from '@green-mantle/core/plan'
import { Undo2 } from '@lucide/vue'
import { usePlannerStore } from '~/stores/planner'
import { useShowStore } from '~/stores/show'

/** The way to gain that was just tried, as a difference against the plan before it, and the way back. */
const store = useShowStore()
const planner = usePlannerStore()
</script>

<template>
  <div
    v-if="planner.tried"
    class="bg-leaf mb-2 rounded p-2"
    role="group"
    aria-label="What was tried last"
  >
    <div class="flex items-start justify-between gap-2">
      <p><b>Tried:</b> {{ planner.tried.label }}</p>
      <button type="button" class="button shrink-0" @click="store.undo()">
        <Undo2 class="size-4" /> Undo
      </button>
    </div>
    <p v-if="planner.isWorking" role="status">Planning …</p>
    <p v-else-if="planner.tried.changes.length === 0">The plan stays as it was.</p>
    <ul v-else class="text-xs">
      <li v-for="change in planner.tried.changes" :key="change.id">{{ changeInWords(change) }}</li>
    </ul>
  </div>
</template>
