<script setup lang="ts">
import { computed } from 'vue'
import { useSenderStore } from '~/stores/sender'
import { useShowStore } from '~/stores/show'
import { secondOfDay } from './nightTimes'

/** Who reads which chat, where; and what is written where it can be read here. */
const show = useShowStore()
const sender = useSenderStore()

const maxLines = 40
const chats = computed(() =>
  show.show.destinations
    .filter(({ on, rules }) => on && rules.chat !== 'no chat')
    .map(({ id, name, chatAddress, chatReadBy, rules }) => ({
      ...{ id, name, address: chatAddress },
      where: rules.chat === 'only on its page' ? 'only on its page' : '',
      reader: chatReadBy.trim() || 'read by nobody',
      isRead: chatReadBy.trim() !== '',
    })),
)
const lines = computed(() =>
  sender.standIns
    .flatMap(({ destinationId, chat }) => {
      const name = show.show.destinations.find(({ id }) => id === destinationId)?.name ?? ''
      return chat.map((line, index) => ({
        ...line,
        name,
        key: `${destinationId}-${line.at}-${index}`,
      }))
    })
    .sort((a, b) => b.at.localeCompare(a.at))
    .slice(0, maxLines),
)
</script>

<template>
  <section v-if="chats.length > 0" class="card p-3" aria-labelledby="chats-title">
    <h2 id="chats-title" class="text-lg">Chats</h2>
    <ul class="text-sm">
      <li v-for="chat in chats" :key="chat.id" class="flex flex-wrap gap-x-2">
        <a
          v-if="/^https?:/.test(chat.address)"
          class="link"
          :href="chat.address"
          target="_blank"
          rel="noopener noreferrer"
          >{{ chat.name }}</a
        >
        <span v-else class="font-semibold">{{ chat.name }}</span>
        <span :class="chat.isRead ? 'text-ink-2' : 'text-ochre'">{{ chat.reader }}</span>
        <span v-if="chat.where" class="text-ink-2">{{ chat.where }}</span>
      </li>
    </ul>
    <ol
      v-if="lines.length > 0"
      class="mt-1 max-h-32 overflow-y-auto text-sm"
      tabindex="0"
      aria-label="What is written"
    >
      <li v-for="line in lines" :key="line.key">
        <span class="number text-ink-2 text-xs">{{
          secondOfDay(line.at, show.show.timeZone)
        }}</span>
        <strong>{{ line.name }}</strong> {{ line.who }}: {{ line.text }}
      </li>
    </ol>
  </section>
</template>
