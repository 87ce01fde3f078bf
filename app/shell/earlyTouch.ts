/**
 * A touch before the page is alive. A page is drawn by the server and can be touched before its scripts run, and a part of it whose scripts come later
 * (ui/later.tsx) before those do; until then a button and a choice of a list do nothing, or a form is sent as it stands, without what makes an act of it. So such a touch waits,
 * the latest one, and is done as soon as it can be. Where that never comes, a form is sent as it stands.
 *
 * Runs in the page by itself, written into the document by the server (root.tsx): it may use nothing from outside.
 */
export function earlyTouch(): void {
  /** How long a touch waits, and how often it is tried, milliseconds. */
  const patience = 15_000;
  const often = 50;
  const types = ['click', 'submit', 'change'];
  let listening = false;
  let latest: { touched: Element; again: () => void; until: number } | null = null;
  let timer: ReturnType<typeof setTimeout> | undefined;

  const keep = (event: Event, touched: Element, again: () => void) => {
    if (latest?.touched === touched && performance.now() > latest.until) return;
    event.preventDefault();
    event.stopImmediatePropagation();
    latest = { touched, again, until: latest?.touched === touched ? latest.until : performance.now() + patience };
    clearTimeout(timer);
    timer = setTimeout(attempt, listening ? often : patience);
  };
  function attempt() {
    const wait = latest;
    if (!wait?.touched.isConnected) return;
    wait.again();
    // Kept again, it is another one; else it was done.
    if (latest === wait) latest = null;
  }
  const take = (event: Event) => {
    // Where nothing listens yet, or the interface library has held it back because that part of the page is not its own yet.
    if (listening && !event.cancelBubble) return;
    const { target } = event;
    const button = target instanceof Element ? target.closest('button') : null;
    if (event.type === 'click' && button) keep(event, button, () => button.click());
    if (event.type === 'submit' && target instanceof HTMLFormElement) {
      const by = (event as SubmitEvent).submitter;
      keep(event, target, () => target.requestSubmit(by));
    }
    if (event.type === 'change' && target instanceof HTMLSelectElement) {
      const { value } = target;
      keep(event, target, () => {
        target.value = value;
        target.dispatchEvent(new Event('change', { bubbles: true }));
      });
    }
  };
  for (const type of types) window.addEventListener(type, (event) => void (listening || take(event)), true);
  window.addEventListener(
    'bloodstone:listening',
    () => {
      listening = true;
      // After the library's own listener at the same place.
      for (const type of types) document.addEventListener(type, take, true);
      attempt();
    },
    { once: true },
  );
}
