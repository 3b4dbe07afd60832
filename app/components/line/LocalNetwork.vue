<script setup lang="ts">
import { localLoad, plannedLocalShare } from '@green-mantle/core/network'
import { kbpsFromMbps, mbpsFromKbps, mbpsNumber, shareInWords } from '@green-mantle/core/words'
import { Plus } from '@lucide/vue'
import { computed } from 'vue'
import QuantityField from '~/components/fields/QuantityField.vue'
import { useShowStore } from '~/stores/show'
import { useLineEditing } from './lineEditing'
import TrafficList from './TrafficList.vue'

/** What network cameras and links put on the local switch; none of it uses the upload. */
const store = useShowStore()
const editing = useLineEditing()
const devices = editing.trafficEditing((line) => line.localNetwork.devices, 'a network device')
const network = computed(() => store.line.localNetwork)
const load = computed(() => localLoad(network.value))

function setLink(mbps: number): void {
  const linkKbps = kbpsFromMbps(mbps)
  editing.change('Set the link rate', (line) => void (line.localNetwork.linkKbps = linkKbps))
}
</script>

<template>
  <section class="card p-4" aria-labelledby="local-title">
    <h2 id="local-title" class="mb-1 text-lg">Local network</h2>
    <p class="text-ink-2 mb-2 text-xs">Cameras over the network load the switch, not the upload.</p>
    <QuantityField
      quantity="link rate"
      class="w-36"
      label="Link rate"
      :model-value="mbpsFromKbps(network.linkKbps)"
      @update:model-value="setLink"
    />
    <TrafficList
      label="On the local network"
      name-label="Camera or link"
      :traffic="network.devices"
      @set="devices.set"
      @remove="devices.remove"
    />
    <button type="button" class="button mt-1.5" @click="devices.add('Network camera', 100000)">
      <Plus class="size-4" /> Camera or link
    </button>
    <p
      v-if="network.devices.length > 0"
      class="mt-2"
      :class="load.fits ? '' : 'text-madder'"
      data-testid="local-load"
    >
      <span class="number">{{ mbpsNumber(load.loadKbps) }}</span> of
      <span class="number">{{ mbpsNumber(network.linkKbps) }}</span> Mb/s,
      {{ shareInWords(load.share)
      }}<template v-if="load.fits"
        >: fits the {{ shareInWords(plannedLocalShare) }} that a link is planned to.</template
      ><template v-else
        >: more than the {{ shareInWords(plannedLocalShare) }} that a link is planned to. Take
        cameras off or use a faster link.</template
      >
    </p>
  </section>
</template>
