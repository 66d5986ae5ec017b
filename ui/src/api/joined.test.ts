import { describe, expect, it } from 'vitest';
import { joined } from '@/api/joined';

const to = (path: string, method: string, body?: string) => new Request(`http://school.test${path}`, { method, body });

describe('what is written', () => {
  it('is sent once while it is under way, and again afterwards', async () => {
    const sent: string[] = [];
    const answers: ((r: Response) => void)[] = [];
    const send = joined((r) => {
      sent.push(`${r.method} ${new URL(r.url).pathname}`);
      return new Promise((done) => answers.push(done));
    });
    const notice = () => send(to('/notices', 'POST', '{"text":"goggles"}'));
    const [first, second] = [notice(), notice()];
    const other = send(to('/notices', 'POST', '{"text":"other"}'));
    const [one, two] = [send(to('/shelf', 'GET')), send(to('/shelf', 'GET'))];
    await expect.poll(() => sent.length).toBe(4);
    expect(sent).toEqual(['GET /shelf', 'GET /shelf', 'POST /notices', 'POST /notices']);
    answers.forEach((done, i) => done(new Response(`answer ${i}`)));
    expect([await (await first).text(), await (await second).text()]).toEqual(['answer 2', 'answer 2']);
    expect(await (await other).text()).toBe('answer 3');
    await Promise.all([one, two]);
    void notice();
    await expect.poll(() => sent.length).toBe(5);
  });

  it('is not remembered where it failed', async () => {
    let tries = 0;
    const send = joined(() =>
      tries++ === 0 ? Promise.reject(new TypeError('no network')) : Promise.resolve(new Response()),
    );
    await expect(send(to('/comments', 'POST', 'x'))).rejects.toThrow('no network');
    expect((await send(to('/comments', 'POST', 'x'))).ok).toBe(true);
  });
});
