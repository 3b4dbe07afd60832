<script setup lang="ts">
import type { Source } from '@green-mantle/core/show'
import { useNow } from '@vueuse/core'
import { computed } from 'vue'
import { useOnAirStore } from '~/stores/onAir'

/** The real device of each source, and which sources have none yet. */
const onAir = useOnAirStore()
const now = useNow({ interval: 1000 })
const rows = computed(() =>
  onAir.sourcesWithDevice.map((source) => ({
    source,
    device: onAir.devices.devices.get(source.id),
  })),
)
const gone = computed(() => rows.value.filter(({ device }) => device?.state === 'gone'))
const goneSeconds = (at: number | null): number =>
  Math.max(0, Math.round((now.value.getTime() - (at ?? 0)) / 1000))

function choose(source: Source): void {
  void (onAir.isCamera(source)
    ? onAir.devices.openCamera(source)
    : onAir.devices.openScreen(source))
}
function chooseCamera(source: Source, event: Event): void {
  void onAir.devices.openCamera(source, (event.target as HTMLSelectElement).value)
}
const asked: Partial<Record<Source['kind'], string>> = {
  'web page': 'Capture its tab',
  screen: 'Choose a screen',
  window: 'Choose a window',
}
</script>

<template>
  <section class="card p-3" aria-labelledby="devices-title">
    <h2 id="devices-title" class="text-base">Devices</h2>
    <p v-if="onAir.devices.problem" role="alert" class="text-madder">
      {{ onAir.devices.problem }}
    </p>
    <p
      v-for="{ source, device } in gone"
      :key="source.id"
      role="alert"
      class="text-madder my-2 text-2xl leading-snug"
    >
      {{ source.name }} is gone since {{ goneSeconds(device?.goneAt ?? null) }} s
    </p>
    <p v-if="rows.length === 0" class="text-ink-2">No source of this show needs one.</p>
    <ul>
      <li
        v-for="{ source, device } in rows"
        :key="source.id"
        class="border-rule flex items-center gap-2 border-b py-1.5 last:border-0"
      >
        <span class="min-w-0 grow">
          <b class="block truncate">{{ source.name }}</b>
          <span class="text-ink-2 block truncate text-xs">{{
            device ? device.label || source.kind : 'none yet; its stand-in picture is shown'
          }}</span>
        </span>
        <select
          v-if="device?.state === 'here' && onAir.isCamera(source)"
          class="field w-24"
          :aria-label="`Camera for ${source.name}`"
          @change="chooseCamera(source, $event)"
        >
          <option
            v-for="camera in onAir.devices.cameras"
            :key="camera.deviceId"
            :value="camera.deviceId"
            :selected="camera.label === device.label"
          >
            {{ camera.label }}
          </option>
        </select>
        <span v-if="device?.state === 'here'" class="text-moss shrink-0">here</span>
        <button
          v-else
          type="button"
          class="button shrink-0"
          :aria-label="`${device ? 'Find' : 'Choose a device for'} ${source.name}`"
          @click="choose(source)"
        >
          {{ device ? 'Find it' : (asked[source.kind] ?? 'Choose') }}
        </button>
      </li>
    </ul>
    <p class="text-ink-2 mt-1 text-xs">
      A web page is captured as a tab or window, by the browser’s own picker. Cameras are known
      again by their names; a browser asks for screens each time.
    </p>
  </section>
</template>
