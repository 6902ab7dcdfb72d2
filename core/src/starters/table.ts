import type { Starter } from './starter.ts';
import { accordion } from './accordion.ts';
import { backButton } from './back-button.ts';
import { button } from './button.ts';
import { carousel } from './carousel.ts';
import { checkbox } from './checkbox.ts';
import { choice } from './choice.ts';
import { dialog } from './dialog.ts';
import { menuBar } from './menu-bar.ts';
import { progress } from './progress.ts';
import { slideOverMenu } from './slide-over-menu.ts';
import { stepper } from './stepper.ts';
import { swipeRow } from './swipe-row.ts';
import { switchPart } from './switch.ts';
import { tabs } from './tabs.ts';
import { textField } from './text-field.ts';
import { toast } from './toast.ts';

/** All starter parts, in the order they are offered. To add one: a file beside this one, and its line here. */
export const starters: readonly Starter[] = [
  button,
  backButton,
  checkbox,
  switchPart,
  choice,
  textField,
  stepper,
  tabs,
  menuBar,
  slideOverMenu,
  carousel,
  accordion,
  dialog,
  toast,
  swipeRow,
  progress,
];
