<script setup lang="ts">
import { thumbnailProblem } from '@green-mantle/core/destinations'
import type { Thumbnail, WordRules } from '@green-mantle/core/show'
import { kilobytesInWords } from '@green-mantle/core/words'
import { ImagePlus, Trash2 } from '@lucide/vue'
import { computed, defineAsyncComponent, ref } from 'vue'
import { chooseFile } from '~/composables/files'

// The cropper is loaded where it is first needed.
const CropDialog = defineAsyncComponent(() => import('./CropDialog.vue'))

/** The picture that stands for the show, cut to the shape that is wanted. */
const props = defineProps<{
  modelValue: Thumbnail | null
  rules: NonNullable<WordRules['thumbnail']>
  /** What is used where this is empty. */
  inherited?: Thumbnail | null
}>()
const emit = defineEmits<{ 'update:modelValue': [thumbnail: Thumbnail | null] }>()
const file = ref<File>()
const shown = computed(() => props.modelValue ?? props.inherited ?? null)
const problem = computed(() => thumbnailProblem(shown.value, props.rules))

async function choose(): Promise<void> {
  file.value = (await chooseFile('image/png,image/jpeg,image/webp')) ?? undefined
}
function take(thumbnail: Thumbnail): void {
  file.value = undefined
  emit('update:modelValue', thumbnail)
}
</script>

<template>
  <div class="flex items-start gap-3">
    <img
      v-if="shown"
      :src="`/api/files/${shown.fileId}`"
      :alt="`Thumbnail ${shown.fileName}`"
      class="border-rule max-h-24 max-w-32 rounded border"
    />
    <div class="flex min-w-0 flex-col items-start gap-1">
      <span class="text-ink-2 text-xs"
        >Thumbnail {{ rules.ratioWidth }}:{{ rules.ratioHeight }}, at least
        {{ rules.leastWidth }} px wide, at most {{ kilobytesInWords(rules.mostBytes) }}</span
      >
      <span v-if="shown" class="number text-xs"
        >{{ shown.width }}×{{ shown.height }}, {{ kilobytesInWords(shown.byteCount)
        }}<template v-if="!modelValue">, as for the show</template></span
      >
      <span v-if="problem" role="alert" class="text-madder text-xs"
        >Not taken there: {{ problem }}.</span
      >
      <span class="flex gap-1">
        <button type="button" class="button" @click="choose">
          <ImagePlus class="size-4" /> Choose and cut …
        </button>
        <button
          v-if="modelValue"
          type="button"
          class="button px-1!"
          aria-label="Remove the thumbnail"
          @click="emit('update:modelValue', null)"
        >
          <Trash2 class="size-4" />
        </button>
      </span>
    </div>
    <CropDialog v-if="file" :file="file" :rules="rules" @close="file = undefined" @cut="take" />
  </div>
</template>
