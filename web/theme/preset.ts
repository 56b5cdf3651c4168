import { definePreset } from '@primeuix/themes';
import { components } from './components.ts';

/** How its rules are named, and which go before which. */
export const THEME_OPTIONS = {
  prefix: 'pw',
  darkModeSelector: '.evening',
  cssLayer: { name: 'primevue', order: 'base, primevue' },
};

/** The components of PrimeVue in the tokens of the workshop: see tokens.css. */
export const workshop = definePreset(components, {
  primitive: {
    borderRadius: { none: '0', xs: '4px', sm: '6px', md: '9px', lg: '12px', xl: '16px' },
  },
  semantic: {
    focusRing: { width: '3px', style: 'solid', color: 'var(--brass)', offset: '2px' },
    primary: {
      50: '#eef5f1',
      100: '#d5e6dd',
      200: '#aecdbf',
      300: '#82b09e',
      400: '#54907c',
      500: '#33735f',
      600: '#1c4a40',
      700: '#173d35',
      800: '#13312b',
      900: '#0f2722',
      950: '#0a1a17',
    },
    colorScheme: {
      light: {
        primary: {
          color: 'var(--spruce)',
          contrastColor: 'var(--spruce-ink)',
          hoverColor: '#275b50',
          activeColor: '#13312b',
        },
        surface: daySurfaces(),
        text: text(),
        content: content(),
        formField: field(),
      },
      dark: {
        primary: {
          color: 'var(--spruce)',
          contrastColor: 'var(--spruce-ink)',
          hoverColor: '#e3f0e7',
          activeColor: '#b9d3c4',
        },
        surface: eveningSurfaces(),
        text: text(),
        content: content(),
        formField: field(),
      },
    },
  },
});

/** Neutral steps, for components that ask for a shade and not for a meaning: from paper to ink. */
function daySurfaces() {
  return {
    0: 'var(--paper-raised)',
    50: 'var(--paper)',
    100: 'var(--paper-sunk)',
    200: 'var(--line)',
    300: 'var(--line)',
    400: 'var(--ink-soft)',
    500: 'var(--ink-soft)',
    600: 'var(--ink-soft)',
    700: 'var(--ink)',
    800: 'var(--ink)',
    900: 'var(--ink)',
    950: 'var(--ink)',
  };
}

/** The same for the evening: components count from light to dark there too. */
function eveningSurfaces() {
  return {
    0: 'var(--ink)',
    50: 'var(--ink)',
    100: 'var(--ink)',
    200: 'var(--ink)',
    300: 'var(--ink-soft)',
    400: 'var(--ink-soft)',
    500: 'var(--ink-soft)',
    600: 'var(--line)',
    700: 'var(--line)',
    800: 'var(--paper-raised)',
    900: 'var(--paper-raised)',
    950: 'var(--paper-sunk)',
  };
}

function text() {
  return {
    color: 'var(--ink)',
    hoverColor: 'var(--ink)',
    mutedColor: 'var(--ink-soft)',
    hoverMutedColor: 'var(--ink)',
  };
}

function content() {
  return {
    background: 'var(--paper-raised)',
    hoverBackground: 'var(--paper-sunk)',
    borderColor: 'var(--line)',
    color: 'var(--ink)',
    hoverColor: 'var(--ink)',
  };
}

function field() {
  return {
    background: 'var(--paper-raised)',
    borderColor: 'var(--string)',
    hoverBorderColor: 'var(--arm)',
    focusBorderColor: 'var(--brass)',
    color: 'var(--ink)',
    placeholderColor: 'var(--ink-soft)',
    iconColor: 'var(--ink-soft)',
  };
}
