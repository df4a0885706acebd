/** Whether the server answered last, as all of a page sees it. */
class Reach {
  private now = true;
  private readonly listeners = new Set<() => void>();
  constructor() {
    if (typeof window === 'undefined') return;
    window.addEventListener('offline', () => this.heard(false));
  }
  heard(answered: boolean): void {
    if (this.now === answered) return;
    this.now = answered;
    this.listeners.forEach((l) => l());
  }
  snapshot = (): boolean => this.now;
  subscribe = (l: () => void): (() => void) => {
    this.listeners.add(l);
    return () => void this.listeners.delete(l);
  };
}
export const reach = new Reach();
