<script setup lang="ts">
import { Combobox, ComboboxInput, ComboboxOption, ComboboxOptions } from '@headlessui/vue'
import { computed, nextTick, ref } from 'vue'
import { allCommands, type Command, runCommand } from '~/commands/commands'
import { keysOf } from '~/commands/ownKeys'
import KeyCaps from './KeyCaps.vue'
import ModalDialog from './ModalDialog.vue'

const emit = defineEmits<{ close: [] }>()

const query = ref('')
const found = computed(() => {
  const words = query.value.toLowerCase().split(/\s+/).filter(Boolean)
  return allCommands()
    .filter((command) => !command.isListedOnly && (command.isPossible?.() ?? true))
    .filter(({ label, group }) => {
      const text = `${group} ${label}`.toLowerCase()
      return words.every((word) => text.includes(word))
    })
    .slice(0, 12)
})

/** The dialog gives focus back as it closes, so the command runs after that. */
async function choose(command: Command | null): Promise<void> {
  if (!command) return
  emit('close')
  await nextTick()
  runCommand(command)
}
</script>

<template>
  <ModalDialog title="Find anything" @close="$emit('close')">
    <Combobox :model-value="null" nullable @update:model-value="choose">
      <ComboboxInput
        class="field"
        aria-label="A step, source, scene, destination or action"
        placeholder="A step, source, scene, destination or action"
        autocomplete="off"
        @change="query = $event.target.value"
      />
      <ComboboxOptions static class="mt-2">
        <ComboboxOption
          v-for="command in found"
          :key="command.id"
          v-slot="{ active }"
          :value="command"
          as="template"
        >
          <li
            class="flex cursor-pointer items-center justify-between gap-3 rounded px-2 py-1.5"
            :class="active ? 'bg-leaf' : ''"
          >
            <span
              >{{ command.label }}
              <span class="text-ink-2 ml-1 text-xs">{{ command.group }}</span></span
            >
            <KeyCaps v-if="keysOf(command)" :keys="keysOf(command) ?? ''" />
          </li>
        </ComboboxOption>
      </ComboboxOptions>
      <p v-if="found.length === 0" class="text-ink-2 mt-2">Nothing is called that here.</p>
    </Combobox>
  </ModalDialog>
</template>
