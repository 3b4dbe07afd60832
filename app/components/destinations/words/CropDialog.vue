<script setup lang="ts">
import type { Thumbnail, WordRules } from '@green-mantle/core/show'
import { pixelUnits } from '@green-mantle/core/words'
import { onBeforeUnmount, ref, useTemplateRef } from 'vue'
import { Cropper, type CropperResult } from 'vue-advanced-cropper'
import 'vue-advanced-cropper/dist/style.css'
import { storeFile } from '~/api/files'
import { wordsFor } from '~/api/problem'
import NumberField from '~/components/fields/NumberField.vue'
import ModalDialog from '~/components/frame/ModalDialog.vue'
import { asJpegUpTo } from '~/pictures/asJpeg'

/** Cuts a picture to the wanted shape, by hand or by numbers, and stores what is cut out. */
const props = defineProps<{ file: File; rules: NonNullable<WordRules['thumbnail']> }>()
const emit = defineEmits<{ close: []; cut: [thumbnail: Thumbnail] }>()
const cropper = useTemplateRef<InstanceType<typeof Cropper>>('cropper')
const address = URL.createObjectURL(props.file)
onBeforeUnmount(() => URL.revokeObjectURL(address))

const area = ref({ left: 0, top: 0, width: 0, height: 0 })
const problem = ref('')
const isStoring = ref(false)
const isReady = ref(false)
const sides = [
  { side: 'left', label: 'Left' },
  { side: 'top', label: 'Top' },
  { side: 'width', label: 'Width' },
] as const

function setSide(side: (typeof sides)[number]['side'], pixels: number): void {
  cropper.value?.setCoordinates({ ...area.value, [side]: pixels })
}

async function cut(): Promise<void> {
  const { canvas } = cropper.value?.getResult() ?? {}
  if (!canvas) {
    problem.value = 'There is no picture to cut yet.'
    return
  }
  isStoring.value = true
  problem.value = ''
  try {
    const picture = await asJpegUpTo(canvas, props.rules.mostBytes)
    const stored = await storeFile(picture, picture.type)
    emit('cut', {
      fileId: stored.id,
      fileName: props.file.name.slice(0, 200),
      width: stored.width ?? canvas.width,
      height: stored.height ?? canvas.height,
      byteCount: stored.byteCount,
    })
  } catch (error) {
    problem.value = wordsFor(error)
  } finally {
    isStoring.value = false
  }
}
</script>

<template>
  <ModalDialog
    :title="`Cut to ${rules.ratioWidth}:${rules.ratioHeight}`"
    width="wide"
    @close="emit('close')"
  >
    <Cropper
      ref="cropper"
      class="bg-sunk h-80"
      :src="address"
      :check-orientation="false"
      :stencil-props="{ aspectRatio: rules.ratioWidth / rules.ratioHeight }"
      @ready="isReady = true"
      @change="area = ($event as CropperResult).coordinates"
      @error="problem = 'This file is no picture that the browser reads.'"
    />
    <div v-if="isReady" class="mt-3 flex items-end gap-2">
      <NumberField
        v-for="{ side, label } in sides"
        :key="side"
        class="w-28"
        :label="label"
        unit="px"
        :units="pixelUnits"
        :min="0"
        :max="16384"
        :step="10"
        :model-value="area[side]"
        @update:model-value="setSide(side, $event)"
      />
      <span class="grow" />
      <button type="button" class="button button-primary" :disabled="isStoring" @click="cut">
        Cut it out
      </button>
    </div>
    <p v-if="area.width > 0 && area.width < rules.leastWidth" class="text-ochre mt-2">
      This part is {{ area.width }} px wide; at least {{ rules.leastWidth }} are wanted.
    </p>
    <p v-if="problem" role="alert" class="text-madder mt-2">{{ problem }}</p>
  </ModalDialog>
</template>
