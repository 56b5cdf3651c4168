import base from '@primeuix/themes/aura/base';
import button from '@primeuix/themes/aura/button';
import dialog from '@primeuix/themes/aura/dialog';
import inputnumber from '@primeuix/themes/aura/inputnumber';
import inputtext from '@primeuix/themes/aura/inputtext';
import menu from '@primeuix/themes/aura/menu';
import progressbar from '@primeuix/themes/aura/progressbar';
import select from '@primeuix/themes/aura/select';
import slider from '@primeuix/themes/aura/slider';
import splitter from '@primeuix/themes/aura/splitter';
import textarea from '@primeuix/themes/aura/textarea';
import selectbutton from '@primeuix/themes/aura/selectbutton';
import togglebutton from '@primeuix/themes/aura/togglebutton';
import toggleswitch from '@primeuix/themes/aura/toggleswitch';

/**
 * The shapes of the components that the app uses, and of no others: the whole set would be a
 * quarter of the script that a player waits for. Add one here when a station first uses it.
 */
export const components = {
  ...base,
  components: {
    button,
    dialog,
    inputnumber,
    inputtext,
    menu,
    progressbar,
    select,
    selectbutton,
    slider,
    splitter,
    textarea,
    togglebutton,
    toggleswitch,
  },
};
