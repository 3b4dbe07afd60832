<script setup lang="ts">
import { stepMarks } from '@green-mantle/core/marks'
import type { OrderChanges } from '@green-mantle/core/night'
import type { Show } from '@green-mantle/core/show'
import { computed, shallowRef, watch } from 'vue'
import { RouterLink, useRoute } from 'vue-router'
import { useKeysStore } from '~/stores/keys'
import { useShowStore } from '~/stores/show'
import StateMark from './StateMark.vue'
import { steps } from './steps'

const store = useShowStore()
const keys = useKeysStore()
const route = useRoute()
/** Compares the order of the night with what was looked through; loaded where there is something to compare. */
const compareOrder = shallowRef<(show: Show) => OrderChanges | null>()
watch(
  () => store.show.runSheet.seen !== null,
  async (isLookedThrough) => {
    if (!isLookedThrough || compareOrder.value) return
    const { nightOrder, orderChanges } = await import('@green-mantle/core/night')
    compareOrder.value = (show) => orderChanges(show, nightOrder(show))
  },
  { immediate: true },
)
const changes = computed(() => compareOrder.value?.(store.show) ?? null)
const marks = computed(() =>
  stepMarks(store.show, store.verdict, {
    keys: keys.records,
    now: keys.now,
    orderChanges: changes.value,
  }),
)
/** Pages of their own within a step. */
const within = { encoders: 'fit', trial: 'rehearse' } as const
const here = computed(() => {
  const page = route.path.split('/').at(-1)
  return within[page as keyof typeof within] ?? page
})
const markOf = (name: (typeof steps)[number]['name']) =>
  name === 'fit' && store.verdict.state === 'fails' ? 'fails' : marks.value[name].state
</script>

<template>
  <nav aria-label="Steps" class="roomy:h-full roomy:w-auto roomy:flex-nowrap flex w-full flex-wrap">
    <RouterLink
      v-for="step in steps"
      :key="step.name"
      :to="`/shows/${store.id}/${step.name}`"
      class="roomy:h-full relative flex min-h-9 items-center gap-1.5 px-1.5 hover:underline xl:gap-2 xl:px-3"
      :class="step.name === here ? 'step-here font-bold' : ''"
      :aria-current="step.name === here ? 'step' : undefined"
      :title="`${step.label}: ${marks[step.name].words}`"
    >
      <StateMark :state="markOf(step.name)" />
      {{ step.label }}
      <span class="sr-only">, {{ marks[step.name].words }}</span>
    </RouterLink>
  </nav>
</template>

<style scoped>
.step-here::after {
  content: '';
  position: absolute;
  inset: auto 0.75rem 0;
  height: 3px;
  border-radius: 2px 2px 0 0;
  background: var(--moss);
}
</style>
