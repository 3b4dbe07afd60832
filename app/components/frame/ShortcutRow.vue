<script setup lang="ts">
import { nextTick, ref, useTemplateRef } from 'vue'
import type { Command } from '~/commands/commands'
import {
  forgetOwnKeys,
  hasOwnKeys,
  keysFrom,
  keysOf,
  setOwnKeys,
  takenBy,
} from '~/commands/ownKeys'
import KeyCaps from './KeyCaps.vue'

/** A command with its keys, which can be others in this browser. */
const props = defineProps<{ command: Command }>()

const isAsking = ref(false)
const words = ref('')
const button = useTemplateRef<HTMLButtonElement>('button')

function ask(): void {
  words.value = ''
  isAsking.value = true
}
function cancel(): void {
  isAsking.value = false
}
async function take(event: KeyboardEvent): Promise<void> {
  if (!isAsking.value || event.key === 'Tab') return
  event.preventDefault()
  event.stopPropagation()
  if (event.key === 'Escape') {
    cancel()
    return
  }
  const keys = keysFrom(event)
  if (keys === null) return
  const other = takenBy(keys, props.command)
  if (other) {
    words.value = `That is taken: ${other}.`
    return
  }
  words.value = ''
  setOwnKeys(props.command, keys)
  isAsking.value = false
  await nextTick()
  button.value?.focus()
}
</script>

<template>
  <div class="border-rule flex flex-wrap items-center gap-x-2 border-b py-1">
    <dt class="mr-auto">{{ command.label }}</dt>
    <dd class="flex items-center gap-1">
      <button
        v-if="!command.isListedOnly"
        ref="button"
        type="button"
        class="button button-quiet"
        :aria-label="
          isAsking ? `Press the keys for ${command.label}` : `Change the keys of ${command.label}`
        "
        @click="isAsking ? cancel() : ask()"
        @keydown="take"
        @blur="cancel"
      >
        <span v-if="isAsking">press keys …</span>
        <KeyCaps v-else :keys="keysOf(command) ?? ''" />
      </button>
      <KeyCaps v-else :keys="command.keys ?? ''" />
      <button
        v-if="hasOwnKeys(command)"
        type="button"
        class="link text-xs"
        :aria-label="`The usual keys for ${command.label}`"
        @click="forgetOwnKeys(command)"
      >
        usual
      </button>
    </dd>
    <dd v-if="words" class="text-madder mt-1.5 basis-full text-right text-xs" role="alert">
      {{ words }}
    </dd>
  </div>
</template>
