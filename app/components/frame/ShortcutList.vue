<script setup lang="ts">
import { computed } from 'vue'
import { allCommands, type Command } from '~/commands/commands'
import { keysOf } from '~/commands/ownKeys'
import ModalDialog from './ModalDialog.vue'
import ShortcutRow from './ShortcutRow.vue'

defineEmits<{ close: [] }>()

const groups = computed(() => {
  const byGroup = new Map<string, Command[]>()
  for (const command of allCommands())
    if (keysOf(command))
      byGroup.set(command.group, [...(byGroup.get(command.group) ?? []), command])
  return [...byGroup]
})
</script>

<template>
  <ModalDialog title="Keys on this page" width="wide" @close="$emit('close')">
    <div class="columns-2 gap-8">
      <section v-for="[group, commands] in groups" :key="group" class="mb-4 break-inside-avoid">
        <h3 class="text-ink-2 mb-1 text-sm">{{ group }}</h3>
        <dl>
          <ShortcutRow v-for="command in commands" :key="command.id" :command="command" />
        </dl>
      </section>
    </div>
  </ModalDialog>
</template>
