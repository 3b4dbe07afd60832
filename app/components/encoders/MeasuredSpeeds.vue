<script setup lang="ts">
import { codecs, type Device } from '@green-mantle/core/show'
import { codecNames } from '@green-mantle/core/words'
import { computed } from 'vue'

/** What every effort of each device and codec was measured to cost. */
const props = defineProps<{ devices: readonly Device[] }>()
const speeds = computed(() =>
  props.devices.flatMap((device) =>
    codecs.flatMap((codec) => {
      const values = device.throughputs.filter((each) => each.codec === codec)
      return values.length === 0 ? [] : [{ key: `${device.id} ${codec}`, device, codec, values }]
    }),
  ),
)
</script>

<template>
  <table v-if="speeds.length > 0">
    <caption class="text-ink-2 text-left text-xs">
      Megapixels a second, milliseconds that every frame costs besides, and × what it gets out of a
      bit
    </caption>
    <tbody>
      <tr v-for="{ key, device, codec, values } in speeds" :key="key">
        <th scope="row" class="pr-4 text-left font-normal">
          {{ device.name }}, {{ codecNames[codec] }}
        </th>
        <td v-for="value in values" :key="value.effort" class="number pr-4 text-right">
          {{ value.megapixelsPerSecond }}
          <span class="text-ink-2 text-xs">+{{ value.millisecondsAFrame ?? 0 }} ms</span>
          <span v-if="value.efficiency" class="text-ink-2 text-xs">
            ×{{ value.efficiency.toFixed(2) }}
          </span>
          <span class="text-ink-2 block text-xs">{{ value.effort }}</span>
        </td>
      </tr>
    </tbody>
  </table>
</template>
