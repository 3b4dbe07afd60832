<script setup lang="ts">
import { Menu, MenuButton, MenuItem, MenuItems } from '@headlessui/vue'
import { newSourceStarts, type NewSourceKind } from '@green-mantle/core/show'
import { Plus } from '@lucide/vue'
import { usePlacing } from './placing'
import { sourceIcons } from './sourceIcons'

const placing = usePlacing()
const kinds = Object.keys(newSourceStarts) as NewSourceKind[]
</script>

<template>
  <Menu as="div" class="relative">
    <MenuButton id="add-source" class="button"><Plus class="size-4" /> Source</MenuButton>
    <MenuItems class="card absolute right-0 z-30 mt-1 w-48 p-1 shadow-lg">
      <MenuItem v-for="kind in kinds" :key="kind" v-slot="{ active }">
        <button
          type="button"
          class="flex w-full items-center gap-2 rounded px-2 py-1.5 text-left"
          :class="active ? 'bg-leaf' : ''"
          @click="placing.addSource(kind)"
        >
          <component :is="sourceIcons[kind]" class="size-4" />
          {{ kind[0]?.toUpperCase() + kind.slice(1) }}
        </button>
      </MenuItem>
    </MenuItems>
  </Menu>
</template>
