<script setup lang="ts">
import type { Traffic } from '@green-mantle/core/show'
import { kbpsFromMbps, mbpsFromKbps } from '@green-mantle/core/words'
import { Trash2 } from '@lucide/vue'
import QuantityField from '~/components/fields/QuantityField.vue'
import OnSwitch from '~/components/fields/OnSwitch.vue'
import TextField from '~/components/fields/TextField.vue'

/** Named rates that can be switched: what else is on the line, what loads the local network. */
defineProps<{ traffic: readonly Traffic[]; label: string; nameLabel: string }>()
defineEmits<{ set: [id: string, changes: Partial<Traffic>]; remove: [id: string] }>()
</script>

<template>
  <ul class="mt-1 flex flex-col gap-1" :aria-label="label">
    <li
      v-for="item in traffic"
      :key="item.id"
      class="grid grid-cols-[2.5rem_1fr_7.5rem_2rem] items-center gap-2"
    >
      <OnSwitch
        :model-value="item.on"
        :label="`${item.name} counts`"
        @update:model-value="$emit('set', item.id, { on: $event })"
      />
      <TextField
        hide-label
        :label="nameLabel"
        required
        :model-value="item.name"
        @update:model-value="$emit('set', item.id, { name: $event })"
      />
      <QuantityField
        quantity="traffic"
        hide-label
        :label="item.name"
        :model-value="mbpsFromKbps(item.bitrateKbps)"
        @update:model-value="$emit('set', item.id, { bitrateKbps: kbpsFromMbps($event) })"
      />
      <button
        type="button"
        class="button button-quiet px-1!"
        :aria-label="`Remove ${item.name}`"
        @click="$emit('remove', item.id)"
      >
        <Trash2 class="size-4" />
      </button>
    </li>
  </ul>
</template>
