<script setup lang="ts">
import { Popover, PopoverButton, PopoverPanel } from '@headlessui/vue'
import { cleanLimits, type CleanLimits } from '@green-mantle/core/show'
import { percentUnits, secondUnits } from '@green-mantle/core/words'
import { ChevronDown } from '@lucide/vue'
import NumberField from '~/components/fields/NumberField.vue'
import { useShowStore } from '~/stores/show'

/** What a clean night allows, and which nights are drawn. */
const store = useShowStore()
function set(name: keyof CleanLimits, value: number | null): void {
  if (value !== null)
    store.edit('Set what a clean night allows', (draft) => {
      draft.rehearsal.clean[name] = value
    })
}
function setSeed(seed: number | null): void {
  if (seed !== null)
    store.edit('Draw other nights', (draft) => {
      draft.rehearsal.seed = seed
    })
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
      <NumberField
        label="Lost, at most"
        unit="%"
        :units="percentUnits"
        :decimals="2"
        :least="cleanLimits.lostPercent.least"
        :most="cleanLimits.lostPercent.most"
        :model-value="store.show.rehearsal.clean.lostPercent"
        @update:model-value="set('lostPercent', $event)"
      />
      <NumberField
        label="Away, at most"
        unit="s"
        :units="secondUnits"
        :decimals="1"
        :least="cleanLimits.awaySeconds.least"
        :most="cleanLimits.awaySeconds.most"
        :model-value="store.show.rehearsal.clean.awaySeconds"
        @update:model-value="set('awaySeconds', $event)"
      />
      <NumberField
        label="Behind, at most"
        unit="s"
        :units="secondUnits"
        :decimals="1"
        :least="cleanLimits.behindSeconds.least"
        :most="cleanLimits.behindSeconds.most"
        :model-value="store.show.rehearsal.clean.behindSeconds"
        @update:model-value="set('behindSeconds', $event)"
      />
      <NumberField
        label="Nights of seed"
        :least="0"
        :most="2147483647"
        :model-value="store.show.rehearsal.seed"
        @update:model-value="setSeed"
      />
      <p class="text-ink-2 col-span-2 text-xs">
        Viewers notice over 1 % of lost frames (common practice, no published source); the rest is
        set by us. The same seed draws the same nights.
      </p>
    </PopoverPanel>
  </Popover>
</template>
