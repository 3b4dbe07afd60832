<script setup lang="ts">
import { Tab, TabGroup, TabList, TabPanel, TabPanels } from '@headlessui/vue'
import { destinationChecks } from '@green-mantle/core/destinations'
import {
  type CanvasName,
  canvasNames,
  type Destination,
  type ViewerScreen,
  viewerScreens,
} from '@green-mantle/core/show'
import { screenNames } from '@green-mantle/core/words'
import { ArrowDown, ArrowUp, Copy, Trash2 } from '@lucide/vue'
import { computed } from 'vue'
import ChoiceSet from '~/components/fields/ChoiceSet.vue'
import SelectField from '~/components/fields/SelectField.vue'
import TextField from '~/components/fields/TextField.vue'
import StateMark from '~/components/frame/StateMark.vue'
import { useKeysStore } from '~/stores/keys'
import { useSelectionStore } from '~/stores/selection'
import { useShowStore } from '~/stores/show'
import CoverZoneEditor from './CoverZoneEditor.vue'
import { useDestinationEditing } from './destinationEditing'
import { furtherLimitsInWords } from './limitsInWords'
import ProfileNote from './profiles/ProfileNote.vue'
import RulesEditor from './RulesEditor.vue'
import ConnectsSection from './sections/ConnectsSection.vue'
import NightSection from './sections/NightSection.vue'
import WordsSection from './sections/WordsSection.vue'

const props = defineProps<{ destination: Destination }>()
const store = useShowStore()
const keys = useKeysStore()
const selection = useSelectionStore()
const editing = useDestinationEditing()
const sections = [
  { name: 'Connects', component: ConnectsSection },
  { name: 'Accepts', component: RulesEditor },
  { name: 'Says', component: WordsSection },
  { name: 'On the night', component: NightSection },
  { name: 'Covers', component: CoverZoneEditor },
] as const

const checks = computed(() =>
  destinationChecks(store.show, keys.records, keys.now).filter(
    ({ destinationId }) => destinationId === props.destination.id,
  ),
)

function set(label: string, changes: Partial<Destination>): void {
  editing.change(props.destination.id, label, (destination) => {
    Object.assign(destination, changes)
  })
}
const canvasChoices = canvasNames.map((value) => ({ value, label: value }))
const screenChoices = viewerScreens.map((value) => ({ value, label: screenNames[value] }))
</script>

<template>
  <div class="flex flex-col gap-3">
    <div>
      <div class="flex items-start gap-1">
        <h2 class="grow text-xl">{{ destination.name }}</h2>
        <button
          type="button"
          class="button px-1!"
          :aria-label="`Move ${destination.name} up`"
          title="Move up"
          @click="editing.move(destination, -1)"
        >
          <ArrowUp class="size-4" />
        </button>
        <button
          type="button"
          class="button px-1!"
          :aria-label="`Move ${destination.name} down`"
          title="Move down"
          @click="editing.move(destination, 1)"
        >
          <ArrowDown class="size-4" />
        </button>
        <button
          type="button"
          class="button px-1!"
          :aria-label="`Copy ${destination.name}`"
          title="Copy"
          @click="editing.copy(destination)"
        >
          <Copy class="size-4" />
        </button>
        <button
          type="button"
          class="button px-1!"
          :aria-label="`Remove ${destination.name}`"
          title="Remove"
          @click="editing.remove(destination.id)"
        >
          <Trash2 class="size-4" />
        </button>
      </div>
      <p class="text-ink-2 text-xs">{{ furtherLimitsInWords(destination.rules) }}</p>
      <ProfileNote :destination="destination" />
    </div>
    <ul v-if="checks.length > 0" aria-label="Not ready yet">
      <li v-for="check in checks" :key="check.words" class="flex gap-2 py-0.5 text-xs">
        <StateMark class="mt-1" :state="check.tone" />{{ check.words }}
      </li>
    </ul>
    <div class="border-rule grid grid-cols-2 gap-2 border-t pt-3">
      <TextField
        id="destination-name"
        label="Name"
        required
        :model-value="destination.name"
        @update:model-value="set('Rename', { name: $event })"
      />
      <TextField
        label="Note"
        :model-value="destination.note"
        @update:model-value="set('Note on', { note: $event })"
      />
      <SelectField
        label="Canvas"
        :model-value="destination.canvas"
        :choices="canvasChoices"
        @update:model-value="set('Change the canvas of', { canvas: $event as CanvasName })"
      />
      <ChoiceSet
        label="Viewers watch on"
        :model-value="destination.viewers"
        :choices="screenChoices"
        @update:model-value="set('Change the viewers of', { viewers: $event as ViewerScreen[] })"
      />
    </div>
    <TabGroup
      as="div"
      :selected-index="selection.destinationSection"
      @change="selection.destinationSection = $event"
    >
      <TabList class="border-rule mb-3 flex border-b">
        <Tab v-for="section in sections" :key="section.name" v-slot="{ selected }" as="template">
          <button
            type="button"
            class="border-b-3 px-2 py-1.5 whitespace-nowrap"
            :class="selected ? 'border-moss font-semibold' : 'border-transparent'"
          >
            {{ section.name }}
          </button>
        </Tab>
      </TabList>
      <TabPanels>
        <TabPanel v-for="section in sections" :key="section.name">
          <component :is="section.component" :key="destination.id" :destination="destination" />
        </TabPanel>
      </TabPanels>
    </TabGroup>
  </div>
</template>
