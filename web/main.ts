import '@fontsource-variable/bricolage-grotesque';
import '@fontsource-variable/atkinson-hyperlegible-next';
import 'primeicons/primeicons.css';
import 'virtual:components.css';
import './theme/tokens.css';
import './theme/base.css';
import { createPinia } from 'pinia';
import { createApp } from 'vue';
import { withControls } from './controls';
import App from './shell/App.vue';
import { router } from './router';
import { beginShelf } from './stations/shelf/lastShelf';

const app = withControls(createApp(App).use(createPinia()).use(router));

const show = () => void app.mount('#app');
if (location.pathname === '/') void beginShelf().then(show);
else show();
