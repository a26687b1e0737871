import type { Page } from 'puppeteer-core';

/** Sizes that a page is met in: a phone, a tablet upright, a desk, a wall. */
const SIZES = [
  [390, 844],
  [820, 1180],
  [1280, 800],
  [1920, 1080],
] as const;
const LIGHTS = ['day', 'night', 'sun'] as const;
const TEXT_SIZES = [1, 2] as const;

/**
 * What is wrong with the layout of the page that is open, in every size, light and size of text.
 * @param whole selectors of what must be on the screen, and all of it, without scrolling
 */
export async function layoutFaults(page: Page, name: string, whole: readonly string[] = []): Promise<string[]> {
  const found = new Map<string, string[]>();
  for (const text of TEXT_SIZES)
    for (const [width, height] of SIZES) {
      await page.setViewport({ width, height });
      await page.evaluate((t) => document.documentElement.style.setProperty('--text-size', String(t)), text);
      await settled(page);
      let day = '';
      for (const light of LIGHTS) {
        await page.evaluate((l) => document.documentElement.setAttribute('data-light', l), light);
        const boxes = await page.evaluate(boxesOfPage);
        // a light changes colours: where every box is as by day, what is wrong is said already
        if (boxes === day) continue;
        day ||= boxes;
        for (const fault of (await page.evaluate(
          `${IN_PAGE}; [...sideways(), ...cutChoices(), ...overWritten(), ...covered(), ...notWhole(${JSON.stringify(whole)})]`,
        )) as string[]) {
          const where = found.get(fault) ?? [];
          found.set(fault, [...where, `${width}x${height} ${100 * text} % ${light}`]);
        }
      }
    }
  return [...found].map(([fault, where]) => `${name}: ${fault} (${where.join(', ')})`);
}

/** Waits until nothing on the page moves any more. */
async function settled(page: Page): Promise<void> {
  await page.waitForFunction(
    `(() => { const boxes = (${boxesOfPage.toString()})(); const still = window.lastBoxes === boxes; window.lastBoxes = boxes; return still; })()`,
    { polling: 80 },
  );
}

/** Runs in the page: where everything is. */
function boxesOfPage(): string {
  return [...document.body.querySelectorAll('main, main *, footer, footer *, nav *, header *')]
    .map((e) => {
      const { x, y, width, height } = e.getBoundingClientRect();
      return `${x | 0},${y | 0},${width | 0},${height | 0}`;
    })
    .join(' ');
}

/** Text as it stands on the page. */
interface Written {
  readonly words: string;
  readonly box: DOMRect;
  /** what of the page its frames let one see */
  readonly seen: { left: number; top: number; right: number; bottom: number };
  /** what it scrolls with */
  readonly owner: Element;
  /** it stays while the rest scrolls, and may lie over the rest */
  readonly stays: boolean;
}

function named(e: Element): string {
  const of = (x: Element): string =>
    `${x.localName}${[...x.attributes].filter((a) => a.name.startsWith('data-') || a.name === 'aria-label').map((a) => `[${a.name}="${a.value.slice(0, 20)}"]`).slice(0, 2).join('')}`; // oxfmt-ignore
  return `${e.parentElement ? `${of(e.parentElement)} > ` : ''}${of(e)} “${(e.textContent ?? '').slice(0, 30)}”`;
}

function scrolls(overflow: string): boolean {
  return overflow === 'auto' || overflow === 'scroll';
}

function stuck(e: Element): boolean {
  return ['sticky', 'fixed'].includes(getComputedStyle(e).position);
}

/** What scrolls sideways, or is cut. */
function sideways(): string[] {
  const faults: string[] = [];
  if (document.documentElement.scrollWidth > window.innerWidth)
    faults.push(`the page is ${document.documentElement.scrollWidth - window.innerWidth} px too wide`);
  for (const element of document.body.querySelectorAll('*')) {
    if (element.closest('svg, .cm-editor')) continue;
    const style = getComputedStyle(element);
    if (element.clientWidth <= 2 || style.display === 'inline') continue;
    const over = element.scrollWidth - element.clientWidth;
    if (over > 1 && scrolls(style.overflowX)) faults.push(`scrolls sideways: ${named(element)}`);
    const clips = (overflow: string): boolean => overflow === 'hidden' || overflow === 'clip';
    if (over > 1 && clips(style.overflowX) && !element.matches('input, textarea'))
      faults.push(`cut at its side: ${named(element)}`);
    const below = element.scrollHeight - element.clientHeight;
    if (below > 4 && clips(style.overflowY) && element.clientHeight > 2)
      faults.push(`cut at its foot: ${named(element)}`);
  }
  return faults;
}

/** Choices whose words do not fit. */
function cutChoices(): string[] {
  return [...document.querySelectorAll('select')].flatMap((select) => {
    const ruler = document.createElement('span');
    const style = getComputedStyle(select);
    ruler.style.cssText = `position:fixed;visibility:hidden;white-space:nowrap;font:${style.font}`;
    ruler.textContent = select.selectedOptions[0]?.textContent ?? '';
    document.body.append(ruler);
    const room = select.clientWidth - parseFloat(style.paddingLeft) - parseFloat(style.paddingRight);
    const cut = select.clientWidth > 0 && ruler.offsetWidth > room + 1;
    const words = ruler.textContent;
    ruler.remove();
    return cut ? [`a choice is cut: ${words}`] : [];
  });
}

/** All text that can be seen. */
function written(): Written[] {
  const found: Written[] = [];
  const walker = document.createTreeWalker(document.body, NodeFilter.SHOW_TEXT);
  const range = document.createRange();
  for (let node = walker.nextNode(); node; node = walker.nextNode()) {
    const element = node.parentElement!;
    const words = (node.textContent ?? '').trim();
    if (words === '' || element.closest('svg, canvas, script, style, option, select, textarea, .cm-editor')) continue;
    if (!element.checkVisibility({ visibilityProperty: true, opacityProperty: true })) continue;
    if (parseFloat(getComputedStyle(element).fontSize) < 1) continue;
    const frame = framesOf(element);
    if (frame.hidden) continue;
    range.selectNodeContents(node);
    for (const box of range.getClientRects()) if (box.width > 2) found.push({ words, box, ...frame });
  }
  return found;
}

/** What lets an element be seen, and what it scrolls with. */
function framesOf(element: Element): Pick<Written, 'seen' | 'owner' | 'stays'> & { hidden: boolean } {
  const seen = { left: 0, top: 0, right: window.innerWidth, bottom: window.innerHeight };
  let owner: Element | null = null;
  let [hidden, stays] = [false, false];
  for (let up: Element | null = element; up && up !== document.body; up = up.parentElement) {
    const style = getComputedStyle(up);
    if (style.clipPath !== 'none') hidden = true;
    if (style.position === 'sticky' || style.position === 'fixed') stays = true;
    const moves = scrolls(style.overflowY) || scrolls(style.overflowX);
    if (moves) owner ??= up;
    if (!moves && style.overflowX !== 'hidden') continue;
    const box = up.getBoundingClientRect();
    seen.left = Math.max(seen.left, box.left);
    seen.top = Math.max(seen.top, box.top);
    seen.right = Math.min(seen.right, box.right);
    seen.bottom = Math.min(seen.bottom, box.bottom);
  }
  return { seen, owner: owner ?? document.body, stays, hidden };
}

/** Text that lies over other text. */
function overWritten(): string[] {
  const all = written().toSorted((a, b) => a.box.top - b.box.top);
  const boxOf = ({ box, seen }: Written, clipped: boolean) => ({
    left: (clipped ? Math.max(box.left, seen.left) : box.left) + 1,
    right: (clipped ? Math.min(box.right, seen.right) : box.right) - 1,
    top: (clipped ? Math.max(box.top, seen.top) : box.top) + box.height * 0.25,
    bottom: (clipped ? Math.min(box.bottom, seen.bottom) : box.bottom) - box.height * 0.25,
  });
  const faults = new Set<string>();
  for (const [i, one] of all.entries())
    for (let k = i + 1; k < all.length && all[k]!.box.top < one.box.bottom; k++) {
      const other = all[k]!;
      if (one.stays !== other.stays) continue;
      const clipped = one.owner !== other.owner;
      const [a, b] = [boxOf(one, clipped), boxOf(other, clipped)];
      if (a.left < b.right && b.left < a.right && a.top < b.bottom && b.top < a.bottom)
        faults.add(`“${one.words.slice(0, 30)}” lies over “${other.words.slice(0, 30)}”`);
    }
  return [...faults];
}

/** Controls that something else lies over; what stays while the rest scrolls may. */
function covered(): string[] {
  const faults: string[] = [];
  for (const control of document.querySelectorAll('button, a[href], input, select')) {
    const box = control.getBoundingClientRect();
    const [x, y] = [box.left + box.width / 2, box.top + box.height / 2];
    const shown = box.width >= 2 && control.checkVisibility({ visibilityProperty: true });
    if (!shown || getComputedStyle(control).clipPath !== 'none') continue;
    const { seen } = framesOf(control);
    if (x < seen.left || x > seen.right || y < seen.top || y > seen.bottom) continue;
    const at = document.elementFromPoint(x, y);
    if (!at || control.contains(at) || at.contains(control) || control.closest('label')?.contains(at)) continue;
    let stays = false;
    for (let up: Element | null = at; up; up = up.parentElement) stays ||= stuck(up);
    if (!stays) faults.push(`covered by ${named(at)}: ${named(control)}`);
  }
  return faults;
}

/** What must be on the screen, and is not, or not all of it. */
function notWhole(selectors: readonly string[]): string[] {
  return selectors.flatMap((selector) => {
    const box = document.querySelector(selector)?.getBoundingClientRect();
    if (!box || box.width === 0) return [`${selector} is not there`];
    const { left, top, right, bottom } = box;
    const out = left < 0 || top < 0 || right > window.innerWidth + 0.5 || bottom > window.innerHeight + 0.5;
    const where = [left, top, right, bottom].map(Math.round).join(', ');
    return out ? [`not whole on the screen: ${selector} at ${where}`] : [];
  });
}

/** What runs in the page: functions that call one another by name. */
const IN_PAGE = [named, scrolls, stuck, framesOf, written, sideways, cutChoices, overWritten, covered, notWhole]
  .map(String)
  .join(';\n');
