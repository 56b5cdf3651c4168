<script setup lang="ts">
import Select from 'primevue/select';

/** One of a list of `{ label, value }`; whatever else is asked of the field goes to it as it is. */
</script>

<template>
  <Select option-label="label" option-value="value" />
</template>
