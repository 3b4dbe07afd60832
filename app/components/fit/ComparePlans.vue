<script setup lang="ts">
import { planOf, planSummary } from '@green-mantle/core/plan'
import { mbpsInWords } from '@green-mantle/core/words'
import { computed } from 'vue'
import { usePlannerStore } from '~/stores/planner'
import { useShowStore } from '~/stores/show'
import { useKeptPlans } from './keptPlans'

/** The present plan beside those that were kept, with what differs marked; any of them can be chosen. */
const store = useShowStore()
const planner = usePlannerStore()
const kept = useKeptPlans()

const present = computed(() => planSummary(store.show, planOf(store.show)))
const plans = computed(() =>
  store.show.keptPlans.map((plan) => ({ plan, summary: planSummary(store.show, plan.parts) })),
)
const rowOf = (summary: typeof present.value, id: string) =>
  summary.rows.find((row) => row.id === id)
const differs = (summary: typeof present.value, id: string): boolean =>
  rowOf(summary, id)?.words !== rowOf(present.value, id)?.words

const number = (score: number | null): string => (score === null ? '' : `${Math.round(score)}`)
</script>

<template>
  <div class="flex flex-col gap-2">
    <div class="overflow-x-auto" tabindex="0" role="region" aria-label="Plans side by side">
      <table class="w-full">
        <thead>
          <tr class="border-rule text-ink-2 border-b text-xs">
            <th class="py-1 pr-2">Destination</th>
            <th class="pr-3">Present plan</th>
            <th v-for="{ plan } in plans" :key="plan.id" class="pr-3">
              <input
                class="field"
                :value="plan.name"
                :aria-label="`Name of ${plan.name}`"
                @change="kept.rename(plan, ($event.target as HTMLInputElement).value)"
              />
            </th>
          </tr>
        </thead>
        <tbody>
          <tr v-for="row in present.rows" :key="row.id" class="border-rule border-b">
            <th scope="row" class="py-1 pr-2 font-semibold">{{ row.name }}</th>
            <td class="pr-3"><b class="number">{{ number(row.score) }}</b> {{ row.words }}</td>
            <td
              v-for="{ plan, summary } in plans"
              :key="plan.id"
              class="pr-3"
              :class="differs(summary, row.id) ? 'bg-ochre-wash' : ''"
            >
              <b class="number">{{ number(rowOf(summary, row.id)?.score ?? null) }}</b>
              {{ rowOf(summary, row.id)?.words ?? 'not in it' }}
              <span v-if="differs(summary, row.id)" class="sr-only">(differs)</span>
            </td>
          </tr>
          <tr>
            <th scope="row" class="py-1 pr-2 font-semibold">Together</th>
            <td class="pr-3">
              {{ mbpsInWords(present.totalKbps) }}, {{ present.encodeCount }} encodes
            </td>
            <td v-for="{ plan, summary } in plans" :key="plan.id" class="pr-3">
              {{ mbpsInWords(summary.totalKbps) }}, {{ summary.encodeCount }} encodes
              <span v-if="summary.spareKbps < 0" class="text-madder"
                >{{ mbpsInWords(-summary.spareKbps) }} too much</span
              >
            </td>
          </tr>
          <tr v-if="plans.length > 0">
            <td />
            <td />
            <td v-for="{ plan } in plans" :key="plan.id" class="py-1 pr-3">
              <button
                type="button"
                class="button"
                :aria-label="`Choose ${plan.name}`"
                @click="planner.choose(`Choose ${plan.name}`, plan.parts)"
              >
                Choose
              </button>
              <button
                type="button"
                class="button button-quiet"
                :aria-label="`Remove ${plan.name}`"
                @click="kept.remove(plan)"
              >
                Remove
              </button>
            </td>
          </tr>
        </tbody>
      </table>
    </div>
    <div class="flex items-center gap-3">
      <button type="button" class="button" :disabled="plans.length >= 20" @click="kept.keep">
        Keep the present plan
      </button>
      <span v-if="plans.length === 0" class="text-ink-2"
        >A kept plan can be held against others, and chosen again.</span
      >
      <span v-else class="text-ink-2">Choosing one stops the planner from changing it.</span>
    </div>
  </div>
</template>
