<script setup lang="ts">
import { Popover, PopoverButton, PopoverPanel } from '@headlessui/vue'
import { cleanLimits, type CleanLimits } from '@green-mantle/core/show'
import { percentUnits, secondUnits } from '@green-mantle/core/words'
import { ChevronDown } from '@lucide/vue'
import { computed } from 'vue'
import NumberField from '~/components/fields/NumberField.vue'
import NumberFields from '~/components/fields/NumberFields.vue'
import { useShowStore } from '~/stores/show'
import { useRehearsalEditing } from './rehearsalEditing'

/** What a clean night allows, and which nights are drawn. */
const store = useShowStore()
const editing = useRehearsalEditing()
const seconds = { unit: 's', units: secondUnits, decimals: 1 }
const descriptions = {
  lostPercent: { label: 'Lost, at most', unit: '%', units: percentUnits, decimals: 2 },
  awaySeconds: { label: 'Away, at most', ...seconds },
  behindSeconds: { label: 'Behind, at most', ...seconds },
} as const satisfies Record<keyof CleanLimits, object>
const names = Object.keys(descriptions) as (keyof CleanLimits)[]
const limits = computed(() =>
  names.map((name) => ({
    name,
    ...descriptions[name],
    ...cleanLimits[name],
    value: store.show.rehearsal.clean[name],
  })),
)
function set(changed: string, value: number): void {
  const name = names.find((each) => each === changed)
  if (name) editing.setClean(name, value)
}
</script>

<template>
  <Popover class="relative">
    <PopoverButton class="button">What is clean <ChevronDown class="size-4" /></PopoverButton>
    <PopoverPanel
      focus
      class="card absolute right-0 z-30 mt-1 grid w-72 grid-cols-2 gap-2 p-3 shadow-lg"
      aria-label="What a clean night allows"
    >
      <NumberFields :fields="limits" @change="set" />
      <NumberField
        label="Nights of seed"
        :min="0"
        :max="2147483647"
        :model-value="store.show.rehearsal.seed"
        @update:model-value="editing.drawOtherNights($event)"
      />
      <p class="text-ink-2 col-span-2 text-xs">
        Viewers notice over 1 % of lost frames (common practice, no published source); the rest is
        set by us. The same seed draws the same nights.
      </p>
    </PopoverPanel>
  </Popover>
</template>
