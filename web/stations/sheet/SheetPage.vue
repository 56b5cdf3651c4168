<script setup lang="ts">
import type { SheetItem, SheetPage } from '#core/sheet';

/** A page as it comes out of the printer. */
defineProps<{ page: SheetPage; label: string }>();

const grey = (value: number | null) =>
  value === null ? 'none' : `hsl(0 0% ${Math.round(value * 100)}%)`;
const anchor = (item: SheetItem) => (item.kind === 'text' ? item.anchor : undefined);
</script>

<template>
  <svg
    class="page"
    xmlns="http://www.w3.org/2000/svg"
    role="img"
    :aria-label="label"
    :viewBox="`0 0 ${page.width} ${page.height}`"
    :width="page.width"
    :height="page.height"
  >
    <rect :width="page.width" :height="page.height" fill="white" />
    <template v-for="(item, index) in page.items" :key="index">
      <text
        v-if="item.kind === 'text'"
        :x="item.x"
        :y="item.y"
        :font-size="item.size"
        :font-weight="item.weight === 'bold' ? 700 : 400"
        :text-anchor="anchor(item)"
        :fill="grey(item.grey)"
        font-family="'Atkinson Hyperlegible Next Variable', 'Atkinson Hyperlegible Next', sans-serif"
      >
        {{ item.text }}
      </text>
      <path
        v-else
        :d="item.d"
        :transform="item.x || item.y ? `translate(${item.x} ${item.y})` : undefined"
        :fill="grey(item.fill)"
        :stroke="grey(item.stroke)"
        :stroke-width="item.width"
        :stroke-dasharray="item.dash?.join(' ')"
      />
    </template>
  </svg>
</template>

<style scoped>
.page {
  display: block;
  width: 100%;
  height: auto;
  max-width: 52rem;
  background: white;
  box-shadow: 0 1px 8px rgb(0 0 0 / 18%);
}
</style>
