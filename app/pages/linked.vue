<script setup lang="ts">
import { useHead } from '#imports'
import { computed, onMounted } from 'vue'
import { useRoute } from 'vue-router'
import { linkingChannel, type LinkingOutcome } from '~/api/accounts'

/** Where the window that went to an account service ends: it tells the waiting one and closes. */
const route = useRoute()
useHead({ title: 'Link an account · Green Mantle' })
const outcome = computed(
  () =>
    (['linked', 'refused'] as const).find((name) => name === route.query.outcome) ??
    ('failed' as const),
)
const words = {
  linked: 'The account is linked. This window can be closed.',
  refused: 'It was refused there, and nothing was linked. This window can be closed.',
  failed: 'Linking did not work, and nothing was changed. Close this window and try again.',
}

onMounted(() => {
  const channel = new BroadcastChannel(linkingChannel)
  const message: LinkingOutcome = {
    outcome: outcome.value,
    accountId: String(route.query.account ?? ''),
  }
  channel.postMessage(message)
  channel.close()
  window.close()
})
</script>

<template>
  <main class="mx-auto max-w-xl p-12">
    <h1 class="text-2xl">Link an account</h1>
    <p class="mt-2">{{ words[outcome] }}</p>
  </main>
</template>
