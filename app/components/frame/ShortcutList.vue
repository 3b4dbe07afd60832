<script setup lang="ts">
import { computed } from 'vue'
import { allCommands, type Command } from '~/commands/commands'
import KeyCaps from './KeyCaps.vue'
import ModalDialog from './ModalDialog.vue'

defineEmits<{ close: [] }>()

const groups = computed(() => {
  const byGroup = new Map<string, Command[]>()
  for (const command of allCommands())
    if (command.keys) byGroup.set(command.group, [...(byGroup.get(command.group) ?? []), command])
  return [...byGroup]
})
</script>

<template>
  <ModalDialog title="Keys on this page" width="wide" @close="$emit('close')">
    <div class="columns-2 gap-8">
      <section v-for="[group, commands] in groups" :key="group" class="mb-4 break-inside-avoid">
        <h3 class="text-ink-2 mb-1 text-sm">{{ group }}</h3>
        <dl>
          <div
            v-for="command in commands"
            :key="command.id"
            class="border-rule flex items-center justify-between border-b py-1"
          >
            <dt>{{ command.label }}</dt>
            <dd><KeyCaps :keys="command.keys ?? ''" /></dd>
          </div>
        </dl>
      </section>
    </div>
  </ModalDialog>
</template>
