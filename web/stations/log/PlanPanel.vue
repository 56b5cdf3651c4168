<script setup lang="ts">
import Button from 'primevue/button';
import InputText from 'primevue/inputtext';
import { computed, onMounted, ref, watch } from 'vue';
import ChooseBeside from '../../fields/ChooseBeside.vue';
import { usePlanWay } from '../../shell/planWay';
import { useLogStore } from '../../stores/log';

/** Tonight, for the minutes that there are: what, how long, why; and when the goals are likely reached. */
const log = useLogStore();
const { goTo } = usePlanWay();
onMounted(() => void log.loadPlan());
watch(
  () => log.minutes,
  () => void log.loadPlan(),
);
const lengths = [10, 20, 40].map((value) => ({ label: `${value} min`, value }));
const items = computed(() => log.plan?.items ?? []);
function start(): void {
  const first = log.start(items.value);
  if (first) goTo(first);
}

const iso = (days: number) => new Date(Date.now() + days * 86_400_000).toISOString().slice(0, 10);
const until = ref(iso(28));
const WEEK = ['Mon', 'Tue', 'Wed', 'Thu', 'Fri', 'Sat', 'Sun'];
const chosen = ref<number[]>([4]);
const toggle = (day: number) =>
  (chosen.value = chosen.value.includes(day)
    ? chosen.value.filter((one) => one !== day)
    : [...chosen.value, day].sort());
const calendar = computed(() =>
  log.calendarUrl({ from: iso(0), to: until.value, days: chosen.value.join() }),
);
</script>

<template>
  <section aria-label="Tonight">
    <ChooseBeside v-model="log.minutes" :options="lengths" aria-label="Minutes" size="small" />
    <p v-if="log.plan && items.length === 0" class="quiet">
      Nothing to plan from yet. A take on Practice is the first thing the plan knows.
    </p>
    <ol v-else>
      <li v-for="(item, index) in items" :key="index">
        <span class="minutes">{{ item.minutes }}</span>
        <span>
          <strong>{{ item.what }}{{ item.tempo ? `, at ${item.tempo}` : '' }}</strong>
          <span class="quiet">{{ item.why }}</span>
        </span>
      </li>
    </ol>
    <Button v-if="items.length > 0" label="Start" icon="pi pi-play" @click="start" />
    <template v-if="log.plan && log.plan.goals.length > 0">
      <h2>Goals</h2>
      <ul>
        <li v-for="goal in log.plan.goals" :key="goal.songId" class="goal">
          <strong>{{ goal.song }}</strong>
          <span>{{ goal.says }}</span>
        </li>
      </ul>
      <p class="quiet">Estimates from your clean takes, not a prescription. Rest when it hurts.</p>
    </template>
    <h2>Into your calendar</h2>
    <div class="days" role="group" aria-label="Evenings">
      <Button
        v-for="(name, index) in WEEK"
        :key="name"
        :label="name"
        size="small"
        :outlined="!chosen.includes(index + 1)"
        :aria-pressed="chosen.includes(index + 1)"
        @click="toggle(index + 1)"
      />
    </div>
    <label class="until">until <InputText v-model="until" type="date" /></label>
    <a
      v-if="chosen.length > 0 && until"
      class="p-button p-button-outlined"
      :href="calendar"
      download="practice.ics"
      >Save the evenings</a
    >
  </section>
</template>

<style scoped>
section {
  display: grid;
  gap: 0.7rem;
  justify-items: start;
}

ol,
ul {
  list-style: none;
  margin: 0;
  padding: 0;
  display: grid;
  gap: 0.5rem;
  width: 100%;
}

ol li {
  display: grid;
  grid-template-columns: 2.4rem 1fr;
  gap: 0.6rem;
}

ol li > span:last-child,
.goal {
  display: grid;
}

.minutes {
  font-family: var(--display);
  font-size: 1.5rem;
  font-weight: 700;
  text-align: right;
  line-height: 1.1;
  color: var(--brass-ink);
}

h2 {
  font-size: 1.05rem;
}

.days {
  display: flex;
  flex-wrap: wrap;
  gap: 0.3rem;
}

.until {
  display: flex;
  align-items: center;
  gap: 0.5rem;
}

a.p-button {
  text-decoration: none;
}
</style>
