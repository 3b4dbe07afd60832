<script setup lang="ts">
import type { Source } from '@green-mantle/core/show'
import { Camera, Monitor, Square } from '@lucide/vue'
import { computed } from 'vue'
import { isLive, showLive, stopLive } from '~/pictures/sourcePictures'
import { useToastStore } from '~/stores/toasts'
import { useSources } from '../editing/sources'

/** Shows a real camera or screen in place of the stand-in, where the browser allows; nothing leaves the machine. */
const props = defineProps<{ source: Source }>()
const toasts = useToastStore()
const sources = useSources()

const use = computed(() => {
  if (['camera', 'guest'].includes(props.source.kind)) return 'camera' as const
  if (['screen', 'window'].includes(props.source.kind)) return 'screen' as const
  return undefined
})
// Only a page that is served securely (or from this machine) has devices at all.
const devices = navigator.mediaDevices as MediaDevices | undefined

async function begin(): Promise<void> {
  const { id } = props.source
  try {
    const stream =
      use.value === 'camera'
        ? await devices?.getUserMedia({ video: { width: { ideal: 1920 } } })
        : await devices?.getDisplayMedia({ video: true })
    const settings = stream?.getVideoTracks()[0]?.getSettings()
    if (!stream) return
    showLive(id, stream)
    if (settings?.width && settings.height)
      sources.setPicture(
        id,
        {
          appearance: props.source.appearance,
          nativeWidth: settings.width,
          nativeHeight: settings.height,
          nativeFramesPerSecond: settings.frameRate
            ? Math.min(240, Math.max(1, settings.frameRate))
            : 30,
        },
        'Take the real size of',
      )
  } catch (error) {
    const reason =
      error instanceof DOMException && error.name === 'NotAllowedError'
        ? 'the browser did not allow it'
        : 'there is none to be had'
    toasts.tell(`No ${use.value} was shown: ${reason}. The stand-in stays.`, { tone: 'fails' })
  }
}
</script>

<template>
  <template v-if="use && devices">
    <button
      v-if="isLive(source.id)"
      type="button"
      class="button self-start"
      @click="stopLive(source.id)"
    >
      <Square class="size-4" /> Back to the stand-in
    </button>
    <button v-else type="button" class="button self-start" @click="begin">
      <component :is="use === 'camera' ? Camera : Monitor" class="size-4" />
      Use a real {{ use }}
    </button>
    <p v-if="isLive(source.id)" class="text-ink-2 text-xs">
      Seen in this tab only; nothing of it is stored or sent.
    </p>
  </template>
</template>
