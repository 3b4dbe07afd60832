<script setup lang="ts">
import { DateTime } from 'luxon'
import { renderSVG } from 'uqr'
import { computed, onMounted, ref, shallowRef } from 'vue'
import { countNightLinks, makeNightLink, type NightLink, takeNightLinksBack } from '~/api/night'
import { wordsFor } from '~/api/problem'
import SelectField from '~/components/fields/SelectField.vue'
import ModalDialog from '~/components/frame/ModalDialog.vue'
import { useShowStore } from '~/stores/show'

/** Opens the night on a phone, by a link that carries a right to it alone. */
const emit = defineEmits<{ close: [] }>()
const show = useShowStore()
const link = shallowRef<NightLink>()
const count = ref(0)
const problem = ref('')
const host = ref('')

async function attempt(action: () => Promise<void>): Promise<void> {
  problem.value = ''
  try {
    await action()
    count.value = (await countNightLinks(show.id)).count
  } catch (error) {
    problem.value = wordsFor(error)
  }
}
const make = (): Promise<void> =>
  attempt(async () => {
    link.value = await makeNightLink(show.id)
    host.value = link.value.hosts[0] ?? ''
  })
const takeBack = (): Promise<void> =>
  attempt(async () => {
    await takeNightLinksBack(show.id)
    link.value = undefined
  })
onMounted(() => attempt(async () => {}))

const scheme = location.protocol
/** Reached from this machine alone, the link is for a second window here. */
const address = computed(() =>
  link.value
    ? `${host.value ? `${scheme}//${host.value}` : location.origin}${link.value.path}`
    : '',
)
const picture = computed(() =>
  address.value
    ? `data:image/svg+xml;utf8,${encodeURIComponent(renderSVG(address.value, { border: 2 }))}`
    : '',
)
const ends = computed(() =>
  link.value ? DateTime.fromISO(link.value.endsAt).setLocale('en-GB').toFormat('d LLL, HH:mm') : '',
)
</script>

<template>
  <ModalDialog
    title="On a phone"
    description="A page of its own with what is due, next and late. Whoever has the link may tick and mark on this night, and reaches nothing else: no address, no key, no other show."
    @close="emit('close')"
  >
    <p v-if="problem" role="alert" class="text-madder">{{ problem }}</p>
    <div v-if="link" class="flex flex-wrap gap-4">
      <img :src="picture" class="size-44 rounded bg-white" alt="The link as a QR code" />
      <div class="min-w-0 flex-1">
        <SelectField
          v-if="link.hosts.length > 1"
          v-model="host"
          label="This machine is reached at"
          :choices="link.hosts.map((value) => ({ value, label: value }))"
        />
        <p class="number mt-1 text-sm wrap-anywhere">
          <a class="link" :href="address" target="_blank" rel="noreferrer">{{ address }}</a>
        </p>
        <p class="text-ink-2 mt-2 text-sm">
          It ends by itself on {{ ends }}. It is shown this once.
        </p>
        <p v-if="link.hosts.length === 0" class="text-ochre mt-2 text-sm">
          Green Mantle is bound to this machine alone, so that only this machine can open it. For a
          phone start it with GREEN_MANTLE_HOST=0.0.0.0, GREEN_MANTLE_ACCESS_TOKEN (16 characters or
          more) and, by name and port, GREEN_MANTLE_ALLOWED_HOSTS; the README says how.
        </p>
      </div>
    </div>
    <div class="mt-4 flex flex-wrap items-center justify-end gap-2">
      <p class="text-ink-2 mr-auto text-sm">Links out: {{ count }}</p>
      <button type="button" class="button" :disabled="count === 0" @click="takeBack">
        Take all back
      </button>
      <button type="button" class="button button-primary" @click="make">Make a link</button>
    </div>
  </ModalDialog>
</template>
