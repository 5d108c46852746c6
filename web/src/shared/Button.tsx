import type { ComponentType } from 'react';
import { Button as BootstrapButton, type ButtonProps } from 'react-bootstrap';

/**
 * Bootstrap's button under a plain type: its own `as` property ranges over every element there is,
 * which, with the elements that the 3D library adds, is more than the compiler takes.
 */
export const Button = BootstrapButton as unknown as ComponentType<ButtonProps>;
