type Props<T> = Partial<Omit<T, 'style'>> & { class?: string; on?: Record<string, () => void> };

/** An element with its properties and what stands in it. */
export function el<K extends keyof HTMLElementTagNameMap>(
  tag: K,
  props: Props<HTMLElementTagNameMap[K]> = {},
  ...inside: (Node | string)[]
): HTMLElementTagNameMap[K] {
  const { class: name, on, ...rest } = props as Props<HTMLElement>;
  const element = document.createElement(tag);
  Object.assign(element, rest);
  if (name) {
    element.className = name;
  }
  for (const [event, does] of Object.entries(on ?? {})) {
    element.addEventListener(event, does);
  }
  element.append(...inside);
  return element;
}

/** A list to choose from, with its name before it. */
export function choice(
  name: string,
  help: string,
  options: [string, string][],
  chosen: string,
  onChange: (value: string) => void,
): { box: HTMLLabelElement; select: HTMLSelectElement } {
  const select = el('select', { title: help, ariaLabel: name });
  for (const [value, label] of options) {
    select.append(el('option', { value, selected: value === chosen }, label));
  }
  select.addEventListener('change', () => onChange(select.value));
  return { box: el('label', { class: 'choice' }, el('span', {}, name), select), select };
}

/** A switch that stays. */
export function toggle(
  name: string,
  help: string,
  on: boolean,
  onChange: (on: boolean) => void,
): HTMLButtonElement {
  const button = el('button', { type: 'button', title: help }, name);
  const show = (value: boolean) => button.setAttribute('aria-pressed', String(value));
  show(on);
  button.addEventListener('click', () => {
    const next = button.getAttribute('aria-pressed') !== 'true';
    show(next);
    onChange(next);
  });
  return button;
}
