import base from '@primeuix/themes/aura/base';
import button from '@primeuix/themes/aura/button';
import dialog from '@primeuix/themes/aura/dialog';
import inputnumber from '@primeuix/themes/aura/inputnumber';
import inputtext from '@primeuix/themes/aura/inputtext';
import select from '@primeuix/themes/aura/select';
import selectbutton from '@primeuix/themes/aura/selectbutton';
import togglebutton from '@primeuix/themes/aura/togglebutton';

/**
 * The shapes of the components that the app uses, and of no others: the whole set would be a
 * quarter of the script that a player waits for. Add one here when a station first uses it.
 */
export const components = {
  ...base,
  components: { button, dialog, inputnumber, inputtext, select, selectbutton, togglebutton },
};
