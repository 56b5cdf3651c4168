<script setup lang="ts">
import SelectButton from 'primevue/selectbutton';

/** One of a few `{ label, value }`, side by side, and always one of them. */
</script>

<template>
  <SelectButton option-label="label" option-value="value" :allow-empty="false" />
</template>
