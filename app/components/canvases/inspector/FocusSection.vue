<script setup lang="ts">
import { focusBetween, defaultFocus, withFocusSide } from '@green-mantle/core/canvas'
import { type Focus, hasOwnPixels, nativeSizeOf } from '@green-mantle/core/show'
import { pixelUnits, shareUnits } from '@green-mantle/core/words'
import { useEventListener } from '@vueuse/core'
import { computed, ref, useTemplateRef } from 'vue'
import NumberField from '~/components/fields/NumberField.vue'
import { addressOf } from '~/pictures/sourcePictures'
import { useSelectionStore } from '~/stores/selection'
import { useSources } from '../editing/sources'
import InspectorSection from './InspectorSection.vue'

/** The part of the source that has to stay whole, drawn on its picture or typed. */
const selection = useSelectionStore()
const sources = useSources()
const source = computed(() => selection.selected?.source)
const native = computed(() => source.value && nativeSizeOf(source.value))
const picture = useTemplateRef<SVGSVGElement>('picture')
/** While it is being drawn. */
const drawn = ref<Focus>()
const shown = computed(() => drawn.value ?? source.value?.focus)

function set(focus: Focus | null): void {
  const id = source.value?.id
  if (id)
    sources.edit(id, focus ? 'Set the focus of' : 'Take the focus off', (draft) => {
      draft.focus = focus
    })
}

function setSide(key: keyof Focus, value: number): void {
  const focus = source.value?.focus
  if (focus && native.value) set(withFocusSide(focus, key, value, native.value))
}

function begin(): void {
  if (native.value) set(defaultFocus(native.value))
}

/** In the source's own pixels. */
function pointOf(event: MouseEvent): { x: number; y: number } {
  const box = picture.value?.getBoundingClientRect()
  const size = native.value
  if (!box || !size) return { x: 0, y: 0 }
  return {
    x: ((event.clientX - box.left) / box.width) * size.width,
    y: ((event.clientY - box.top) / box.height) * size.height,
  }
}

function startDrawing(event: MouseEvent): void {
  const from = pointOf(event)
  const stop = useEventListener(window, 'mousemove', (now: MouseEvent) => {
    if (native.value) drawn.value = focusBetween(from, pointOf(now), native.value)
  })
  useEventListener(
    window,
    'mouseup',
    () => {
      stop()
      if (drawn.value) set(drawn.value)
      drawn.value = undefined
    },
    { once: true },
  )
}

const fields = computed(() => {
  const { width = 1, height = 1 } = native.value ?? {}
  return [
    { key: 'x', label: 'X', min: 0, max: width - 1, along: width },
    { key: 'y', label: 'Y', min: 0, max: height - 1, along: height },
    { key: 'width', label: 'W', min: 1, max: width, along: width },
    { key: 'height', label: 'H', min: 1, max: height, along: height },
  ] as const
})
</script>

<template>
  <InspectorSection
    v-if="source && native && hasOwnPixels(source)"
    title="Focus"
    :summary="source.focus ? 'set' : 'none'"
  >
    <p class="text-ink-2 text-xs">
      What has to stay whole, such as a face. Matching trims only about it.
    </p>
    <svg
      ref="picture"
      class="w-full cursor-crosshair rounded bg-stage"
      :viewBox="`0 0 ${native.width} ${native.height}`"
      aria-hidden="true"
      @mousedown.prevent="startDrawing"
    >
      <image v-if="addressOf(source)" :href="addressOf(source)" v-bind="native" />
      <rect
        v-if="shown"
        v-bind="shown"
        fill="none"
        stroke="#fffdf6"
        :stroke-width="native.width / 90"
        :stroke-dasharray="`${native.width / 40} ${native.width / 60}`"
      />
    </svg>
    <div v-if="source.focus" class="grid grid-cols-2 gap-1.5">
      <NumberField
        v-for="field in fields"
        :key="field.key"
        :label="`Focus ${field.label}`"
        :model-value="source.focus[field.key]"
        :units="{ ...pixelUnits, ...shareUnits(field.along) }"
        :min="field.min"
        :max="field.max"
        @update:model-value="setSide(field.key, $event)"
      />
    </div>
    <button v-if="source.focus" type="button" class="button self-start" @click="set(null)">
      No focus
    </button>
    <button v-else type="button" class="button self-start" @click="begin">Set a focus</button>
  </InspectorSection>
</template>
