<script setup lang="ts">
import { RouterLink } from 'vue-router';
</script>

<template>
  <section class="station">
    <h1 class="answer">There is nothing at this address.</h1>
    <p>Your songs are on the <RouterLink :to="{ name: 'shelf' }">shelf</RouterLink>.</p>
  </section>
</template>
