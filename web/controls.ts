import PrimeVue from 'primevue/config';
import type { App } from 'vue';

const nonce = () =>
  document.querySelector<HTMLMetaElement>('meta[property="csp-nonce"]')?.nonce ?? '';

/** An app with the controls of the interface, as all of them are set up. */
export function withControls(app: App): App {
  return app.use(PrimeVue, {
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
    csp: { nonce: nonce() },
  });
}
