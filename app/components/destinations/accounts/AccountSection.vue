<script setup lang="ts">
import type { Destination, LinkedAccount } from '@green-mantle/core/show'
import { Link2, Unlink } from '@lucide/vue'
import { computed, onBeforeUnmount, onMounted, ref, shallowRef, watch } from 'vue'
import {
  type AccountPage,
  fetchAccounts,
  fetchPages,
  linkingAddress,
  linkingChannel,
  type LinkedAccountRecord,
  type LinkingOutcome,
  unlinkAccount,
} from '~/api/accounts'
import { wordsFor } from '~/api/problem'
import SelectField from '~/components/fields/SelectField.vue'
import { useToastStore } from '~/stores/toasts'
import { useDestinationEditing } from '../destinationEditing'

/** The account, page and scheduled event that a linked destination sends to. */
const props = defineProps<{ destination: Destination }>()
const editing = useDestinationEditing()
const toasts = useToastStore()
const accounts = shallowRef<LinkedAccountRecord[]>([])
const pages = shallowRef<AccountPage[]>([])
const problem = ref('')
const account = computed(() => props.destination.account)

async function attempt(run: () => Promise<void>): Promise<void> {
  problem.value = ''
  try {
    await run()
  } catch (error) {
    problem.value = wordsFor(error)
  }
}
const load = (): Promise<void> =>
  attempt(async () => {
    accounts.value = await fetchAccounts()
  })
const loadPages = (accountId: string): Promise<void> =>
  attempt(async () => {
    pages.value = []
    pages.value = await fetchPages(accountId)
  })
watch(
  () => account.value?.accountId,
  (id) => {
    pages.value = []
    if (id) void loadPages(id)
  },
  { immediate: true },
)

function set(next: LinkedAccount | null): void {
  editing.change(props.destination.id, 'Choose the account of', (destination) => {
    destination.account = next
  })
}

/** The first page is taken to begin with; it can be changed below. */
const choose = (accountId: string): Promise<void> =>
  attempt(async () => {
    const chosen = accounts.value.find(({ id }) => id === accountId)
    if (!chosen) return set(null)
    const [page] = await fetchPages(accountId)
    set({
      accountId,
      accountName: chosen.name,
      pageId: page?.id ?? '',
      pageName: page?.name ?? '',
      eventId: null,
      eventTitle: '',
    })
    await loadPages(accountId)
  })

function choosePage(pageId: string): void {
  const page = pages.value.find(({ id }) => id === pageId)
  if (page && account.value)
    set({
      ...account.value,
      pageId,
      pageName: page.name,
      eventId: null,
      eventTitle: '',
    })
}
function chooseEvent(eventId: string): void {
  const event = events.value.find(({ id }) => id === eventId)
  if (account.value)
    set({ ...account.value, eventId: event?.id ?? null, eventTitle: event?.title ?? '' })
}

const accountChoices = computed(() => [
  { value: '', label: 'none' },
  ...accounts.value.map(({ id, name }) => ({ value: id, label: name })),
])
const pageChoices = computed(() => pages.value.map(({ id, name }) => ({ value: id, label: name })))
const events = computed(
  () => pages.value.find(({ id }) => id === account.value?.pageId)?.events ?? [],
)
const eventChoices = computed(() => [
  { value: '', label: 'an event of its own' },
  ...events.value.map(({ id, title }) => ({ value: id, label: title })),
])

function link(): void {
  window.open(linkingAddress, 'link-account', 'popup,width=560,height=640')
}
const unlink = (accountId: string): Promise<void> =>
  attempt(async () => {
    await unlinkAccount(accountId)
    set(null)
    await load()
    toasts.tell('The account is not linked any more; its access was given back.')
  })

async function afterLinking({ outcome, accountId }: LinkingOutcome): Promise<void> {
  if (outcome !== 'linked') {
    problem.value =
      outcome === 'refused'
        ? 'It was refused there, and nothing was linked.'
        : 'Linking did not work, and nothing was changed. Try again.'
    return
  }
  await load()
  await choose(accountId)
}
let channel: BroadcastChannel | undefined
onMounted(() => {
  void load()
  channel = new BroadcastChannel(linkingChannel)
  channel.addEventListener('message', (event: MessageEvent<LinkingOutcome>) => {
    void afterLinking(event.data)
  })
})
onBeforeUnmount(() => channel?.close())
</script>

<template>
  <div class="flex flex-col gap-2">
    <p v-if="account" data-testid="linked-account">
      Linked to <strong>{{ account.accountName }}</strong>, {{ account.pageName
      }}<template v-if="account.eventTitle">: {{ account.eventTitle }}</template>
    </p>
    <p v-else class="text-ink-2">
      Nothing is pasted here: the account service gives address and key when the show starts.
    </p>
    <SelectField
      v-if="accounts.length > 0"
      label="Account"
      :model-value="account?.accountId ?? ''"
      :choices="accountChoices"
      @update:model-value="choose"
    />
    <template v-if="account && pages.length > 0">
      <SelectField
        label="Page"
        :model-value="account.pageId"
        :choices="pageChoices"
        @update:model-value="choosePage"
      />
      <SelectField
        label="Scheduled event"
        :model-value="account.eventId ?? ''"
        :choices="eventChoices"
        @update:model-value="chooseEvent"
      />
    </template>
    <p v-if="problem" role="alert" class="text-madder">{{ problem }}</p>
    <div class="flex gap-2">
      <button type="button" class="button button-primary" @click="link">
        <Link2 class="size-4" /> Link an account …
      </button>
      <button v-if="account" type="button" class="button" @click="unlink(account.accountId)">
        <Unlink class="size-4" /> Unlink it
      </button>
    </div>
  </div>
</template>
