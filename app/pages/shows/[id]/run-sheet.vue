<script setup lang="ts">
import type { OrderedTask } from '@green-mantle/core/night'
import { Flag, Play, Square } from '@lucide/vue'
import { computed, defineAsyncComponent, onBeforeUnmount, ref, watch } from 'vue'
import { RouterLink } from 'vue-router'
import { offerCommands } from '~/commands/commands'
import InTurn from '~/components/frame/InTurn.vue'
import DueNow from '~/components/night/DueNow.vue'
import KeptLog from '~/components/night/KeptLog.vue'
import LongestChain from '~/components/night/LongestChain.vue'
import MarksCard from '~/components/night/MarksCard.vue'
import NightClock from '~/components/night/NightClock.vue'
import OrderOfNight from '~/components/night/OrderOfNight.vue'
import PreflightCard from '~/components/night/PreflightCard.vue'
import ScenesOnAir from '~/components/night/ScenesOnAir.vue'
import ChatsCard from '~/components/night/ChatsCard.vue'
import SendCard from '~/components/night/SendCard.vue'
import SenderCard from '~/components/night/SenderCard.vue'
import WhoAmI from '~/components/night/WhoAmI.vue'
import { useNightLogStore } from '~/stores/nightLog'
import { useRunSheetStore } from '~/stores/runSheet'
import { useShowStore } from '~/stores/show'

const TaskDialog = defineAsyncComponent(() => import('~/components/night/TaskDialog.vue'))
const PeopleDialog = defineAsyncComponent(() => import('~/components/night/PeopleDialog.vue'))
const PhoneDialog = defineAsyncComponent(() => import('~/components/night/PhoneDialog.vue'))
const BeginEarlyDialog = defineAsyncComponent(
  () => import('~/components/night/BeginEarlyDialog.vue'),
)
const OutOfOrderDialog = defineAsyncComponent(
  () => import('~/components/night/OutOfOrderDialog.vue'),
)

const store = useShowStore()
const sheet = useRunSheetStore()
const log = useNightLogStore()

watch(
  () => store.id,
  () => void sheet.open(),
  { immediate: true },
)
onBeforeUnmount(() => sheet.close())

const open = ref<{ name: 'task'; id: string | null } | { name: 'people' } | { name: 'phone' }>()
const editTask = (task: OrderedTask): void => {
  open.value = { name: 'task', id: task.id }
}
const add = (): void => {
  open.value = { name: 'task', id: null }
}
const marks = ref<InstanceType<typeof MarksCard>>()
const hasDestinations = computed(() => store.show.destinations.some(({ on }) => on))
const wasOn = computed(() => log.state.begunAt !== null)
const begin = (): void => sheet.begin()
const end = (): void => sheet.say({ kind: 'over' })
const another = (): void => sheet.say({ kind: 'new night' })

/** A digit for each of the first nine scenes. */
offerCommands(
  computed(() =>
    store.show.scenes.slice(0, 9).map(({ id: sceneId, name }, index) => ({
      id: `night.scene.${sceneId}`,
      label: `On air: ${name}`,
      group: 'Night',
      keys: `${index + 1}`,
      isPossible: () => sheet.isOn,
      run: () => sheet.say({ kind: 'scene', sceneId, name }),
    })),
  ),
)
offerCommands([
  {
    id: 'night.mark',
    label: 'Mark this moment',
    group: 'Night',
    keys: 'm',
    isPossible: () => sheet.isOn,
    run: () => marks.value?.mark(0),
  },
  {
    id: 'night.mark-back',
    label: 'Mark the last 30 s',
    group: 'Night',
    keys: 'Shift+M',
    isPossible: () => sheet.isOn,
    run: () => marks.value?.mark(30),
  },
  {
    id: 'night.tick',
    label: 'What is due now is done',
    group: 'Night',
    keys: 'd',
    isPossible: () => sheet.isOn && sheet.due.now.length > 0,
    run: () => {
      const [task] = sheet.due.now
      if (task) sheet.tick(task)
    },
  },
  { id: 'night.add', label: 'Add a task', group: 'Night', keys: 'n', run: add },
  {
    id: 'night.people',
    label: 'People and margin',
    group: 'Night',
    run: () => (open.value = { name: 'people' }),
  },
  {
    id: 'night.begin',
    label: 'Begin the night',
    group: 'Night',
    isPossible: () => log.isRead && !wasOn.value,
    run: begin,
  },
])
</script>

<template>
  <div
    class="roomy:h-full roomy:grid-cols-[minmax(17rem,21rem)_minmax(0,1fr)_minmax(15rem,20rem)] roomy:grid-rows-[minmax(0,1fr)] roomy:overflow-hidden relative grid grid-cols-[minmax(0,1fr)] gap-3 p-3"
  >
    <InTurn>
      <OrderOfNight
        @edit="editTask"
        @add="add"
        @people="open = { name: 'people' }"
        @phone="open = { name: 'phone' }"
      />
      <template #meanwhile><section class="card" aria-busy="true" /></template>
    </InTurn>
    <div class="roomy:min-h-0 roomy:overflow-y-auto relative flex flex-col gap-3">
      <p v-if="log.problem" role="alert" class="text-madder">{{ log.problem }}</p>
      <p v-if="!hasDestinations" class="card p-4">
        Nothing is sent anywhere yet, so the order is short.
        <RouterLink class="link" :to="`/shows/${store.id}/destinations`"
          >Go to Destinations</RouterLink
        >.
      </p>
      <template v-if="sheet.isOn">
        <DueNow />
        <SendCard v-for="each in sheet.sends" :key="each.destination.id" v-bind="each" />
        <SenderCard v-if="hasDestinations" />
        <ChatsCard />
      </template>
      <template v-else>
        <section v-if="wasOn" class="card flex flex-wrap items-center gap-2 p-3">
          <h2 class="grow text-lg">The night is over</h2>
          <RouterLink class="button button-primary" :to="`/wrap-ups/${store.id}`"
            ><Flag class="size-4" /> Wrap-up</RouterLink
          >
          <button type="button" class="button" @click="begin">Go on with it</button>
          <button type="button" class="button" @click="another">Another night</button>
        </section>
        <InTurn><PreflightCard /></InTurn>
        <InTurn><LongestChain /></InTurn>
      </template>
    </div>
    <div class="roomy:min-h-0 roomy:overflow-y-auto relative flex flex-col gap-3">
      <NightClock />
      <div class="flex flex-wrap gap-2">
        <button
          v-if="!wasOn"
          type="button"
          class="button button-primary grow"
          :disabled="!log.isRead"
          @click="begin"
        >
          <Play class="size-4" /> Begin the night
        </button>
        <button v-else-if="sheet.isOn" type="button" class="button grow" @click="end">
          <Square class="size-4" /> The night is over
        </button>
      </div>
      <WhoAmI />
      <template v-if="wasOn">
        <ScenesOnAir />
        <MarksCard ref="marks" />
      </template>
      <InTurn><KeptLog class="min-h-52 grow" /></InTurn>
    </div>
    <TaskDialog v-if="open?.name === 'task'" :task-id="open.id" @close="open = undefined" />
    <PeopleDialog v-else-if="open?.name === 'people'" @close="open = undefined" />
    <PhoneDialog v-else-if="open?.name === 'phone'" @close="open = undefined" />
    <OutOfOrderDialog v-if="sheet.asked" />
    <BeginEarlyDialog v-else-if="sheet.asksToBegin" />
  </div>
</template>
