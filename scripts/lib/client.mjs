// A hand on the API for scripts: keeps its cookie, answers status and body, and never throws for what the server says.
export class Hand {
  cookie = '';
  constructor(base) {
    this.base = base;
  }
  async call(method, path, body, headers = {}, ms = 20_000) {
    const began = performance.now();
    const raw = typeof body === 'string' || body instanceof Uint8Array;
    try {
      const res = await fetch(this.base + path, {
        method,
        signal: AbortSignal.timeout(ms),
        redirect: 'manual',
        headers: {
          ...(body !== undefined ? { 'Content-Type': raw ? 'text/plain' : 'application/json' } : {}),
          ...(this.cookie ? { Cookie: this.cookie } : {}),
          ...headers,
        },
        body: body === undefined ? undefined : raw ? body : JSON.stringify(body),
      });
      const set = res.headers.get('set-cookie');
      if (set) this.cookie = set.split(';')[0];
      const text = res.headers.get('content-type')?.includes('event-stream') ? (await res.body?.cancel(), '') : await res.text();
      let json = null;
      try {
        json = JSON.parse(text);
      } catch {
        // not everything is JSON
      }
      return { status: res.status, json, text, ms: performance.now() - began };
    } catch (e) {
      return {
        status: 0,
        json: null,
        text: `${e}${e.cause ? `: ${e.cause.code ?? ''} ${e.cause.message}` : ''}`,
        ms: performance.now() - began,
      };
    }
  }
  async signIn(name, password = 'lantern') {
    for (let i = 0; i < 100; i++) {
      const r = await this.call('POST', '/api/session', { name, password });
      if (r.status === 200) return this;
      await new Promise((x) => setTimeout(x, 200));
    }
    throw new Error(`sign-in of ${name} failed`);
  }
  /** The order of a unit on the floor; a server that is busy is asked again. */
  async order(unit) {
    for (let i = 0; ; i++) {
      const r = await this.call('GET', '/api/floor');
      if (r.status === 200) return r.json.orders.find((o) => o.summary.unitName.endsWith(unit));
      if (i === 60) throw new Error(`the floor was not answered: ${r.status} ${r.text}`);
      await new Promise((x) => setTimeout(x, 500));
    }
  }
}
