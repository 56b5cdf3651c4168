<script setup lang="ts">
import InputText from 'primevue/inputtext';
import { plural } from '#core/plain';
import ChooseOne from '../../fields/ChooseOne.vue';
import { SORTS, type Sort } from './sorts';

/** What is looked for on a shelf of many songs, and in which order they stand. */
defineProps<{ found: number }>();
const searched = defineModel<string>('searched', { required: true });
const sort = defineModel<Sort>('sort', { required: true });
</script>

<template>
  <InputText v-model="searched" aria-label="Search the songs" placeholder="Search the songs" />
  <ChooseOne v-model="sort" :options="SORTS" aria-label="Order of the songs" />
  <span v-if="searched" class="quiet" role="status">{{ plural(found, 'song') }}</span>
</template>
