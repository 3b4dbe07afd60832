<script setup lang="ts">
import { Popover, PopoverButton, PopoverPanel } from '@headlessui/vue'
import { marginPointsLimits, shapeMarginPointsLimits } from '@green-mantle/core/show'
import { ChevronDown } from '@lucide/vue'
import NumberField from '~/components/fields/NumberField.vue'
import OnSwitch from '~/components/fields/OnSwitch.vue'
import { useShowStore } from '~/stores/show'
import { useFitEditing } from './fitEditing'

/** By what the planner chooses among plans of nearly the same picture. */
const store = useShowStore()
const editing = useFitEditing()
</script>

<template>
  <Popover class="relative">
    <PopoverButton class="button">
      How plans are chosen <ChevronDown class="size-4" aria-hidden="true" />
    </PopoverButton>
    <PopoverPanel
      class="card absolute right-0 z-30 mt-1 flex max-h-[60dvh] w-88 flex-col gap-2 overflow-y-auto p-3 shadow-lg"
    >
      <NumberField
        label="Floor for the picture"
        :model-value="store.show.fit.floorScore"
        :min="0"
        :max="100"
        @update:model-value="editing.setFit('Set the floor', { floorScore: $event })"
      />
      <p class="text-ink-2 text-xs">As few destinations as can be score below it.</p>
      <NumberField
        label="Margin, points a destination"
        :decimals="1"
        :step="0.1"
        :min="marginPointsLimits.min"
        :max="marginPointsLimits.max"
        :model-value="store.show.fit.marginPoints"
        @update:model-value="
          editing.setFit('Set the margin of plans', {
            marginPoints: $event,
          })
        "
      />
      <p class="text-ink-2 text-xs">
        So far below the best a plan may stay, to change fewest cells of the last plan, then to
        spare the processor, encodes, odd bitrates and upload.
      </p>
      <NumberField
        label="A larger size has to gain, points"
        :decimals="1"
        :step="0.5"
        :min="shapeMarginPointsLimits.min"
        :max="shapeMarginPointsLimits.max"
        :model-value="store.show.fit.shapeMarginPoints"
        @update:model-value="
          editing.setFit('Set what a larger size has to gain', {
            shapeMarginPoints: $event,
          })
        "
      />
      <p class="text-ink-2 text-xs">So has a higher frame rate; else the smaller one is taken.</p>
      <span class="flex min-h-8 items-center gap-2">
        <OnSwitch
          :model-value="store.show.fit.newerCodecs"
          label="Newer codecs where they are accepted"
          @update:model-value="
            editing.setFit($event ? 'Trust newer codecs' : 'Trust H.264 only', {
              newerCodecs: $event,
            })
          "
        />
        <span aria-hidden="true">Newer codecs where they are accepted</span>
      </span>
      <p class="text-ink-2 text-xs">
        Else H.264, which every viewer’s device shows. A destination can differ; see its encoder
        settings.
      </p>
    </PopoverPanel>
  </Popover>
</template>
