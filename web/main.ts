import '@fontsource-variable/bricolage-grotesque';
import '@fontsource-variable/atkinson-hyperlegible-next';
import 'primeicons/primeicons.css';
import './theme/tokens.css';
import './theme/base.css';
import { createPinia } from 'pinia';
import PrimeVue from 'primevue/config';
import { createApp } from 'vue';
import App from './shell/App.vue';
import { router } from './router';
import { workshop } from './theme/preset';

const nonce = document.querySelector<HTMLMetaElement>('meta[property="csp-nonce"]')?.nonce;

createApp(App)
  .use(createPinia())
  .use(router)
  .use(PrimeVue, {
    theme: {
      preset: workshop,
      options: {
        prefix: 'pw',
        darkModeSelector: '.evening',
        cssLayer: { name: 'primevue', order: 'base, primevue' },
      },
    },
    // An open list is a region of the page with a name; what only guards the focus is no stop of the Tab key.
    pt: {
      select: {
        overlay: { role: 'region', 'aria-label': 'Choices' },
        listContainer: { tabindex: 0 },
        hiddenFirstFocusableEl: { tabindex: -1 },
        hiddenLastFocusableEl: { tabindex: -1 },
      },
    },
    csp: { nonce },
  })
  .mount('#app');
