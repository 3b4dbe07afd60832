<script setup lang="ts">
import { readEncoderLog } from '@green-mantle/core/formats'
import { type Codec, codecs, type Device, type Effort, efforts } from '@green-mantle/core/show'
import { codecNames, countInWords, sizeInWords, wholeNumber } from '@green-mantle/core/words'
import { FileInput } from '@lucide/vue'
import { computed, ref, useId } from 'vue'
import NumberField from '~/components/fields/NumberField.vue'
import SelectField from '~/components/fields/SelectField.vue'
import ModalDialog from '~/components/frame/ModalDialog.vue'
import { chooseTextFile } from '~/composables/files'
import { useComputerEditing } from './computerEditing'

/** Takes a device's speed from the progress log of an encoder that ran on it. */
const props = defineProps<{ device: Device }>()
const emit = defineEmits<{ close: [] }>()
const editing = useComputerEditing()
const id = useId()

const text = ref('')
const codec = ref<Codec>('h264')
const effort = ref<Effort>('balanced')
const width = ref<number | null>(null)
const height = ref<number | null>(null)
const codecChoices = codecs.map((value) => ({ value, label: codecNames[value] }))
const effortChoices = efforts.map((value) => ({ value, label: value }))

const result = computed(() =>
  text.value.trim() === ''
    ? undefined
    : readEncoderLog(
        text.value,
        width.value !== null && height.value !== null
          ? { width: width.value, height: height.value }
          : null,
      ),
)

async function openFile(): Promise<void> {
  const file = await chooseTextFile('.log,.txt,text/plain', 20_000_000)
  if (file) text.value = file.text
}

function take(): void {
  if (!result.value?.ok) return
  const { megapixelsPerSecond } = result.value
  editing.setSpeed(props.device, codec.value, effort.value, Number(megapixelsPerSecond.toFixed(1)))
  emit('close')
}
</script>

<template>
  <ModalDialog
    :title="`How fast ${device.name} is`"
    description="From the progress lines of an encoder that ran on it: frame=… fps=… speed=…"
    width="wide"
    @close="emit('close')"
  >
    <div class="flex flex-col gap-3">
      <div>
        <label :for="id" class="text-ink-2 text-xs">The log, pasted</label>
        <textarea :id="id" v-model="text" class="field number h-36 w-full text-xs" />
      </div>
      <div class="flex flex-wrap items-end gap-2">
        <button type="button" class="button" @click="openFile">
          <FileInput class="size-4" /> From a file …
        </button>
        <SelectField v-model="codec" class="w-24" label="Codec" :choices="codecChoices" />
        <SelectField v-model="effort" class="w-28" label="Effort" :choices="effortChoices" />
        <NumberField
          v-model="width"
          class="w-28"
          label="Width, if not in it"
          optional
          :min="16"
          :max="7680"
        />
        <NumberField
          v-model="height"
          class="w-28"
          label="Height, if not in it"
          optional
          :min="16"
          :max="7680"
        />
      </div>
      <p v-if="result && !result.ok" role="alert" class="text-madder">
        {{ result.message }} Nothing is changed.
      </p>
      <p v-else-if="result?.ok" role="status">
        {{ countInWords(result.lines, 'line') }}, {{ sizeInWords(result) }} at
        {{ wholeNumber(result.framesPerSecond) }} fps:
        <b class="number">{{ wholeNumber(result.megapixelsPerSecond) }}</b> megapixels a second.
      </p>
      <div class="flex justify-end gap-2">
        <button type="button" class="button" @click="emit('close')">Leave it</button>
        <button type="button" class="button button-primary" :disabled="!result?.ok" @click="take">
          Take the speed
        </button>
      </div>
    </div>
  </ModalDialog>
</template>
