<script setup lang="ts">
import type { Incident } from '@green-mantle/core/show'
import { incidentInWords } from '@green-mantle/core/simulation'
import { computed, useTemplateRef } from 'vue'
import { useElementSize } from '~/composables/elementSize'
import { useShowStore } from '~/stores/show'
import { useIncidents } from './incidentEditing'
import { useTimeAxis } from './timeAxis'

/** The incidents as flags on the axis: moved by drag and arrow keys, stretched at their end or with Shift. */
const store = useShowStore()
const incidents = useIncidents()
const { seconds, percent, clock } = useTimeAxis()
const strip = useTemplateRef<HTMLElement>('strip')
const { width } = useElementSize(strip)

const minSeconds = 0.5
const flagPixels = 150

/** Each in the first row in which it lies over no other. */
const rows = computed(() => {
  const ends: number[] = []
  return [...store.show.rehearsal.incidents]
    .sort((a, b) => a.atSeconds - b.atSeconds)
    .map((incident) => {
      const scale = width.value / seconds.value || 1
      const from = incident.atSeconds * scale
      const to = from + Math.max(flagPixels, incident.durationSeconds * scale)
      const free = ends.findIndex((end) => end <= from)
      const row = free < 0 ? ends.length : free
      ends[row] = to
      return { incident, row }
    })
})
const rowCount = computed(() => Math.max(1, ...rows.value.map(({ row }) => row + 1)))

const within = (at: number): number => Math.min(seconds.value - 1, Math.max(0, at))

function drag(event: PointerEvent, incident: Incident, stretches: boolean): void {
  incidents.chosenId.value = incident.id
  const from = event.clientX
  const perPixel = seconds.value / Math.max(1, width.value)
  const target = event.currentTarget as HTMLElement
  target.setPointerCapture(event.pointerId)
  const move = (moved: PointerEvent): void => {
    const by = (moved.clientX - from) * perPixel
    incidents.change(
      incident.id,
      stretches
        ? { durationSeconds: Math.max(minSeconds, Math.round(incident.durationSeconds + by)) }
        : { atSeconds: Math.round(within(incident.atSeconds + by)) },
      `incident ${incident.id}`,
    )
  }
  const end = (): void => {
    target.removeEventListener('pointermove', move)
    store.endMerge()
  }
  target.addEventListener('pointermove', move)
  target.addEventListener('pointerup', end, { once: true })
  target.addEventListener('pointercancel', end, { once: true })
}

function keys(event: KeyboardEvent, incident: Incident): void {
  const direction = { ArrowLeft: -1, ArrowRight: 1 }[event.key]
  if (direction !== undefined) {
    event.preventDefault()
    const stretches = event.shiftKey
    const step = direction * (event.altKey ? 60 : 10)
    incidents.change(
      incident.id,
      stretches
        ? { durationSeconds: Math.max(minSeconds, incident.durationSeconds + step) }
        : { atSeconds: within(incident.atSeconds + step) },
      `incident ${incident.id}`,
    )
  } else if (event.key === 'Delete') incidents.remove(incident.id)
}
const words = (incident: Incident): string => incidentInWords(incident, store.show)
</script>

<template>
  <div
    ref="strip"
    class="relative"
    :style="{ height: `${rowCount * 1.7}rem` }"
    role="group"
    aria-label="Incidents on the axis of the show"
  >
    <div
      v-for="{ incident, row } in rows"
      :key="incident.id"
      class="absolute flex"
      :style="{
        left: percent(incident.atSeconds),
        top: `${row * 1.7}rem`,
        minWidth: percent(incident.durationSeconds),
      }"
    >
      <button
        type="button"
        class="bg-ochre-wash border-ochre h-6.5 min-w-0 grow cursor-grab touch-none truncate rounded-l-sm border px-1.5 text-left text-xs whitespace-nowrap"
        :class="[
          incident.on ? '' : 'opacity-50 line-through',
          incidents.chosenId.value === incident.id ? 'border-2 font-semibold' : '',
        ]"
        :aria-pressed="incidents.chosenId.value === incident.id"
        :aria-label="`${words(incident)}, at ${clock(incident.atSeconds)}${incident.on ? '' : ', switched off'}. Arrow keys move it, with Shift they stretch it.`"
        :title="`${words(incident)}, at ${clock(incident.atSeconds)}`"
        @click="incidents.chosenId.value = incident.id"
        @pointerdown="drag($event, incident, false)"
        @keydown="keys($event, incident)"
      >
        {{ words(incident) }}
      </button>
      <!-- Its end, to stretch it by hand; by keys it is stretched with Shift. -->
      <div
        class="bg-ochre h-6.5 w-1.5 shrink-0 cursor-ew-resize touch-none rounded-r-sm"
        title="Drag to stretch"
        aria-hidden="true"
        @pointerdown="drag($event, incident, true)"
      />
    </div>
  </div>
</template>
