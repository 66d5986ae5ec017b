// What is written once is sent once: while it is under way, the same again (a second Enter on a slow
// line, a tap that bounced) waits for its answer and is nothing of its own.

const most = 100_000; // characters of a body that is compared

export function joined(send: (request: Request) => Promise<Response>) {
  const underWay = new Map<string, Promise<Response>>();
  return async (request: Request): Promise<Response> => {
    if (request.method === 'GET' || request.headers.get('Content-Type')?.startsWith('application/octet'))
      return send(request);
    const body = await request.clone().text();
    if (body.length > most) return send(request);
    const key = [request.method, request.url, ...request.headers, body].join('\n');
    let answer = underWay.get(key);
    if (!answer) {
      answer = send(request).finally(() => underWay.delete(key));
      underWay.set(key, answer);
    }
    return (await answer).clone();
  };
}
