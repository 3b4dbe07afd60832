<script setup lang="ts">
import { lostOf, stretchesOf } from '@green-mantle/core/simulation'
import { computed } from 'vue'
import type { LookedAtNight } from '~/workers/rehearsal.worker'
import { axis } from './timeAxis'

/** A lane a send with its state through the night and its figures, and a lane a device. */
const props = defineProps<{ looked: LookedAtNight }>()

/** Narrower than this share of the axis nothing can be seen. */
const minShare = 0.004

const lanes = computed(() =>
  props.looked.outcome.sends.map((send, index) => {
    const about = props.looked.sends[index]
    const lost = (100 * lostOf(send)) / Math.max(1, send.made)
    return {
      ...send,
      canvas: about?.canvas ?? 'landscape',
      passedOnTo: about?.passedOnTo ?? [],
      stretches: stretchesOf(props.looked.trace.states[index] as Uint8Array).map((stretch) => ({
        ...stretch,
        width: Math.max(minShare, stretch.width),
      })),
      lost: `${lost > 0 && lost < 0.1 ? '<0.1' : lost.toFixed(1)} %`,
      behind: `${send.longestBehindSeconds.toFixed(1)} s`,
      away: `${Math.round(send.awaySeconds)} s`,
      seenAfter: `${Math.round(send.seenAfterSeconds)} s`,
    }
  }),
)
const devices = computed(() =>
  props.looked.devices.map((name, index) => {
    const loads = props.looked.trace.loads[index] as Float32Array
    const size = Math.max(1, Math.ceil(loads.length / 240))
    const points: string[] = []
    for (let at = 0; at < loads.length; at += size) {
      const most = Math.max(...loads.subarray(at, at + size))
      points.push(
        `${((100 * at) / loads.length).toFixed(2)},${(20 - 20 * Math.min(1, most)).toFixed(2)}`,
      )
    }
    return {
      name,
      path: `0,20 ${points.join(' ')} 100,20`,
      most: `${Math.round(100 * (props.looked.outcome.maxLoad[index] ?? 0))} % at most`,
      isOver: (props.looked.outcome.maxLoad[index] ?? 0) > 1,
    }
  }),
)
const recordings = computed(() =>
  props.looked.outcome.recordings.map((recording) => ({
    ...recording,
    share: (100 * lostOf(recording)) / Math.max(1, recording.made),
  })),
)
const laneWords = (lane: (typeof lanes.value)[number]): string =>
  `${lane.name}: ${lane.lost} of frames lost, ${lane.behind} behind at most, ${lane.away} away, seen ${lane.seenAfter} after it happened at the latest, ${lane.freezes} freezes, mean score ${Math.round(lane.meanScore)}`
const columns = {
  gridTemplateColumns: `${axis.left}px minmax(0, 1fr) ${axis.right}px`,
}
</script>

<template>
  <div>
    <div class="grid items-end" :style="columns" aria-hidden="true">
      <span class="col-start-3 grid grid-cols-[3.6rem_3.6rem_3rem_3.2rem_2rem] pl-2 text-xs">
        <span>lost</span><span>behind</span><span>away</span><span>seen</span><span>score</span>
      </span>
    </div>
    <ul aria-label="The sends through this night">
      <li
        v-for="lane in lanes"
        :key="lane.key"
        class="grid items-center py-0.5"
        :style="columns"
        :data-lane="lane.name"
      >
        <span
          class="truncate pr-2 font-semibold"
          :class="lane.canvas === 'landscape' ? 'text-river' : 'text-foxglove'"
          :title="
            lane.passedOnTo.length > 0
              ? `${lane.name}, and with it ${lane.passedOnTo.join(', ')}`
              : lane.name
          "
          >{{ lane.name }}</span
        >
        <span
          class="relative block h-4 overflow-hidden"
          :style="{
            background: lane.canvas === 'landscape' ? 'var(--slab-river)' : 'var(--slab-foxglove)',
          }"
          role="img"
          :aria-label="laneWords(lane)"
        >
          <span
            v-for="stretch in lane.stretches"
            :key="stretch.from"
            class="absolute inset-y-0"
            :class="`lane-${stretch.state}`"
            :style="{ left: `${100 * stretch.from}%`, width: `${100 * stretch.width}%` }"
          />
        </span>
        <span
          class="number grid grid-cols-[3.6rem_3.6rem_3rem_3.2rem_2rem] pl-2 text-xs whitespace-nowrap"
        >
          <span>{{ lane.lost }}</span><span>{{ lane.behind }}</span><span>{{ lane.away }}</span
          ><span>+{{ lane.seenAfter }}</span><span>{{ Math.round(lane.meanScore) }}</span>
        </span>
      </li>
      <li
        v-for="device in devices"
        :key="device.name"
        class="grid items-center py-0.5"
        :style="columns"
      >
        <span class="truncate pr-2" :title="device.name">{{ device.name }}</span>
        <svg
          class="bg-sunk block h-4 w-full"
          viewBox="0 0 100 20"
          preserveAspectRatio="none"
          role="img"
          :aria-label="`${device.name}: ${device.most}`"
        >
          <polygon :points="device.path" fill="var(--moss)" opacity="0.8" />
        </svg>
        <span class="number pl-2 text-xs" :class="{ 'text-madder': device.isOver }">{{
          device.most
        }}</span>
      </li>
      <li v-for="recording in recordings" :key="recording.id" class="grid py-0.5" :style="columns">
        <span class="truncate pr-2" :title="recording.name">{{ recording.name }}</span>
        <span class="text-ink-2 text-xs">to disk</span>
        <span class="number pl-2 text-xs">{{ recording.share.toFixed(1) }} % lost</span>
      </li>
    </ul>
    <p class="text-ink-2 mt-1 flex flex-wrap gap-x-4 gap-y-1 text-xs">
      <span><i class="legend lane-lowered" /> bitrate lowered</span>
      <span><i class="legend lane-behind" /> behind</span>
      <span><i class="legend lane-dropping" /> frames dropped</span>
      <span><i class="legend lane-gone" /> connection gone, coming back</span>
      <span><i class="legend lane-over" /> given up</span>
      <span
        >seen: how long after it happened viewers saw it at the latest, the destination’s lag with
        it; score: the mean over its viewers’ screens and the night</span
      >
    </p>
  </div>
</template>

<style scoped>
.lane-lowered {
  background: repeating-linear-gradient(
    135deg,
    color-mix(in srgb, var(--sheet) 55%, transparent) 0 4px,
    transparent 4px 8px
  );
}
.lane-behind {
  background: var(--ochre);
}
.lane-dropping {
  background: var(--madder);
}
.lane-gone {
  background: var(--sheet);
  border: 2px solid var(--madder);
}
.lane-over {
  background: var(--sheet);
  border: 2px dashed var(--ink-2);
}
.legend {
  display: inline-block;
  width: 0.9rem;
  height: 0.7rem;
  vertical-align: -0.05rem;
  margin-right: 0.25rem;
}
.legend.lane-lowered {
  background-color: var(--slab-river);
}
</style>
