<script setup lang="ts">
// Why marks are proposed for a criterion: what was read, where, and beside a figure the
// one that follows from the student's own earlier ones.
import type { MarkLine } from '@/api/marking';
import { written } from '@/features/marking/marks';
import { say } from '@/words';

defineProps<{ line: MarkLine; student?: boolean }>();
</script>

<template>
  <section :class="!student && 'sheet'" data-test="evidence">
    <h2 v-if="!student" class="flex flex-wrap items-baseline justify-between gap-2 font-bold">
      {{ line.title }}
      <span class="text-sm font-normal" :class="line.certain ? 'text-agree' : 'text-rough'">
        {{
          line.proposed === undefined
            ? say('marking.cannot')
            : say(line.certain ? 'marking.certain' : 'marking.proposes', { marks: written(line.proposed) })
        }}
      </span>
    </h2>
    <p v-for="w in line.why.concat(line.exact ?? [])" :key="w">{{ w }}</p>
    <ul v-if="line.evidence.length" class="mt-2 grid gap-1">
      <li v-for="(e, i) in line.evidence" :key="i" class="rounded-glass bg-well px-2 py-1">
        <template v-if="e.passage">
          <p class="text-sm text-quiet">{{ e.title }}</p>
          <p class="max-h-60 overflow-y-auto wrap-anywhere whitespace-pre-line" tabindex="0">{{ e.text }}</p>
        </template>
        <p v-else class="flex flex-wrap items-baseline gap-x-3">
          <span>{{ e.title }}</span>
          <span class="figure font-semibold" :class="e.follows && (e.fits ? 'text-agree' : 'text-rough')">
            <span v-if="e.follows" aria-hidden="true">{{ e.fits ? '✓' : '✗' }}</span> {{ e.text }}</span
          >
          <span v-if="e.follows" class="text-sm text-quiet"
            >{{ say('marking.follows') }} <span class="figure">{{ e.follows }}</span></span
          >
        </p>
      </li>
    </ul>
    <p v-if="line.award?.comment" class="mt-2 border-l-4 border-accent pl-2">{{ line.award.comment }}</p>
    <details v-if="!student && line.history.length > 1" class="mt-2 text-sm">
      <summary>{{ say('marking.history') }}</summary>
      <ul>
        <li v-for="h in line.history" :key="h.id">
          {{ h.by }}: <span class="figure">{{ written(h.marks) }}</span> {{ say(`marking.how.${h.how}`) }}
          {{ h.comment }}
        </li>
      </ul>
    </details>
  </section>
</template>
