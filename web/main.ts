import '@fontsource-variable/bricolage-grotesque';
import '@fontsource-variable/atkinson-hyperlegible-next';
import 'primeicons/primeicons.css';
import 'virtual:components.css';
import './theme/tokens.css';
import './theme/base.css';
import { createPinia } from 'pinia';
import PrimeVue from 'primevue/config';
import { createApp } from 'vue';
import App from './shell/App.vue';
import { router } from './router';
import { beginShelf } from './stations/shelf/lastShelf';

const nonce = document.querySelector<HTMLMetaElement>('meta[property="csp-nonce"]')?.nonce;

const app = createApp(App)
  .use(createPinia())
  .use(router)
  .use(PrimeVue, {
    // It is written at build time: see theme/sheet.ts.
    theme: 'none',
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
  });

const show = () => void app.mount('#app');
if (location.pathname === '/') void beginShelf().then(show);
else show();
