<script setup lang="ts">
import { type Listening, type OpenMinutes, openMinutesChoices } from '@green-mantle/core/arrival'
import { Lock, Network } from '@lucide/vue'
import { DateTime } from 'luxon'
import { ref } from 'vue'
import SelectField from '~/components/fields/SelectField.vue'

/** Whether other computers reach the listeners: not unless it is asked for, and then for a stated time. */
defineProps<{ network: Listening['network'] }>()
defineEmits<{ open: [minutes: OpenMinutes]; close: [] }>()

const minutes = ref<OpenMinutes>(60)
const inWords: Record<OpenMinutes, string> = { 15: '15 min', 60: '1 h', 240: '4 h' }
const choices = openMinutesChoices.map((value) => ({ value, label: inWords[value] }))
const clockTime = (iso: string): string =>
  DateTime.fromISO(iso).toLocaleString(DateTime.TIME_SIMPLE)
</script>

<template>
  <div class="border-rule mt-3 border-t pt-2" data-testid="network-reach">
    <template v-if="network">
      <p role="status">
        Open to the local network until {{ clockTime(network.until) }}, at
        {{ network.hosts.join(' and ') }}. Whoever there knows a practice key can send here; what
        crosses is not encrypted.
      </p>
      <button type="button" class="button mt-2" @click="$emit('close')">
        <Lock class="size-4" /> Close to the network
      </button>
    </template>
    <div v-else class="flex flex-wrap items-end gap-2">
      <p class="text-ink-2 min-w-40 flex-1 text-xs">
        Your program runs on another computer of this network? Let that one in for a while.
      </p>
      <SelectField v-model="minutes" class="w-24" label="Open for" :choices="choices" />
      <button type="button" class="button" @click="$emit('open', minutes)">
        <Network class="size-4" /> Open
      </button>
    </div>
  </div>
</template>
