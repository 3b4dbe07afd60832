<script setup lang="ts">
import { Popover, PopoverButton, PopoverPanel } from '@headlessui/vue'
import {
  type ArrangementOnResize,
  arrangementsOnResize,
  withCanvasSize,
} from '@green-mantle/core/canvas'
import {
  type CanvasName,
  framesPerSecondChoices,
  type Size,
  commonCanvasSizes,
} from '@green-mantle/core/show'
import { sizeInWords } from '@green-mantle/core/words'
import { ChevronDown } from '@lucide/vue'
import { computed, ref } from 'vue'
import SelectField from '~/components/fields/SelectField.vue'
import SizeFields from '~/components/fields/SizeFields.vue'
import { useShowEditing } from '~/composables/showEditing'
import { useShowStore } from '~/stores/show'

const props = defineProps<{ canvas: CanvasName }>()
const store = useShowStore()
const { setFrameRate } = useShowEditing()
const size = computed(() => store.show.canvasPair[props.canvas])
const arrangement = ref<ArrangementOnResize>('scale along')
const arrangementChoices = arrangementsOnResize.map((value) => ({ value, label: value }))

function setSize(next: Size): void {
  store.edit(`Set the ${props.canvas} canvas to ${sizeInWords(next)}`, (draft) =>
    withCanvasSize(draft, props.canvas, next, arrangement.value),
  )
}
const frameRates = framesPerSecondChoices.map((value) => ({ value, label: `${value} fps` }))
</script>

<template>
  <Popover class="relative">
    <PopoverButton class="flex items-baseline gap-2 rounded">
      <span
        class="text-base font-semibold"
        :class="canvas === 'landscape' ? 'text-river' : 'text-foxglove'"
        >{{ canvas === 'landscape' ? 'Landscape' : 'Vertical' }}</span
      >
      <span class="number text-ink-2 text-xs whitespace-nowrap"
        >{{ sizeInWords(size)
        }}<template v-if="canvas === 'landscape'">
          · {{ store.show.canvasPair.framesPerSecond }} fps</template
        ></span
      >
      <ChevronDown class="text-ink-2 size-3.5 self-center" aria-hidden="true" />
      <span class="sr-only">, size and frame rate</span>
    </PopoverButton>
    <PopoverPanel class="card absolute z-30 mt-1 flex w-60 flex-col gap-2 p-3 shadow-lg">
      <SelectField v-model="arrangement" label="What stands on it" :choices="arrangementChoices" />
      <div class="flex flex-wrap gap-1">
        <button
          v-for="usual in commonCanvasSizes[canvas]"
          :key="usual.width"
          type="button"
          class="button number text-xs"
          :aria-pressed="usual.width === size.width && usual.height === size.height"
          @click="setSize(usual)"
        >
          {{ sizeInWords(usual) }}
        </button>
      </div>
      <SizeFields :model-value="size" @update:model-value="setSize" />
      <SelectField
        label="Frame rate of both canvases"
        :model-value="store.show.canvasPair.framesPerSecond"
        :choices="frameRates"
        @update:model-value="setFrameRate"
      />
    </PopoverPanel>
  </Popover>
</template>
