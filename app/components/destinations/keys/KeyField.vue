<script setup lang="ts">
import type { Destination } from '@green-mantle/core/show'
import { Copy, Eye, EyeOff, Trash2 } from '@lucide/vue'
import { useTimeoutFn } from '@vueuse/core'
import { computed, ref, useId } from 'vue'
import { revealKey } from '~/api/keys'
import { wordsFor } from '~/api/problem'
import StateMark from '~/components/frame/StateMark.vue'
import { useKeysStore } from '~/stores/keys'
import { useShowStore } from '~/stores/show'
import { useToastStore } from '~/stores/toasts'

/** The stream key: pasted, copied without showing, shown only when asked and only for a while. */
const props = defineProps<{ destination: Destination }>()
const store = useShowStore()
const keys = useKeysStore()
const toasts = useToastStore()
const id = useId()
const hideAfterMilliseconds = 20_000

const state = computed(() => keys.stateOf(props.destination))
const mark = computed(
  () =>
    (
      {
        'none needed': 'settled',
        present: 'settled',
        missing: 'not begun',
        stale: 'attention',
        unreadable: 'fails',
      } as const
    )[state.value.state],
)
const has = computed(() => state.value.state === 'present' || state.value.state === 'stale')
const pasted = ref('')
const shown = ref('')
const problem = ref('')
const isSaving = ref(false)
const { start: hideLater, stop: stopHiding } = useTimeoutFn(hide, hideAfterMilliseconds, {
  immediate: false,
})

function hide(): void {
  stopHiding()
  shown.value = ''
}

/** Runs what may be refused, and says so beside the field. */
async function attempt(run: () => Promise<void>): Promise<void> {
  problem.value = ''
  try {
    await run()
  } catch (error) {
    problem.value = wordsFor(error)
  }
}

const save = (): Promise<void> =>
  attempt(async () => {
    const key = pasted.value.trim()
    if (key === '') return
    isSaving.value = true
    try {
      await keys.save(props.destination.id, key)
      pasted.value = ''
      hide()
    } finally {
      isSaving.value = false
    }
  })

const show = (): Promise<void> =>
  attempt(async () => {
    shown.value = await revealKey(store.id, props.destination.id)
    hideLater()
  })

const copy = (): Promise<void> =>
  attempt(async () => {
    // Without TLS a browser has no clipboard for pages of another machine.
    if (!window.isSecureContext)
      throw new Error(
        'This browser copies only over HTTPS or on this machine. Show the key instead.',
      )
    await navigator.clipboard.writeText(await revealKey(store.id, props.destination.id))
    toasts.tell(`The key of ${props.destination.name} is copied.`)
  })

const forget = (): Promise<void> =>
  attempt(async () => {
    const { id: destinationId, name } = props.destination
    hide()
    await keys.forget(destinationId)
    toasts.tell(`The key of ${name} is forgotten.`, {
      action: { label: 'Bring it back', run: () => keys.restore(destinationId) },
    })
  })
</script>

<template>
  <div v-if="state.state !== 'none needed'" class="flex flex-col gap-1.5">
    <p class="flex items-center gap-2" data-testid="key-state">
      <StateMark :state="mark" /> {{ state.words }}
    </p>
    <form class="flex items-end gap-2" @submit.prevent="save">
      <div class="min-w-0 grow">
        <label :for="id" class="text-ink-2 text-xs">{{
          has ? 'Paste another key' : 'Paste the key'
        }}</label>
        <input
          :id="id"
          v-model="pasted"
          type="password"
          class="field number"
          autocomplete="off"
          spellcheck="false"
          maxlength="1000"
          data-1p-ignore
        />
      </div>
      <button type="submit" class="button button-primary" :disabled="pasted === '' || isSaving">
        Keep it
      </button>
    </form>
    <div v-if="has" class="flex gap-2">
      <button v-if="shown" type="button" class="button" @click="hide">
        <EyeOff class="size-4" /> Hide
      </button>
      <button v-else type="button" class="button" @click="show">
        <Eye class="size-4" /> Show for 20 s
      </button>
      <button type="button" class="button" @click="copy"><Copy class="size-4" /> Copy</button>
      <button type="button" class="button" @click="forget"><Trash2 class="size-4" /> Forget</button>
    </div>
    <output
      v-if="shown"
      class="number bg-sunk block rounded px-2 py-1 break-all"
      data-testid="shown-key"
      >{{ shown }}</output
    >
    <p v-if="problem || keys.problem" role="alert" class="text-madder">
      {{ problem || keys.problem }}
    </p>
  </div>
</template>
