import { createServer, request, type Server } from "node:http";

export interface CountingProxy {
  readonly url: string;
  /** Bytes of JavaScript passed on since the last reset, as sent over the wire, by path. */
  readonly scripts: Map<string, number>;
  close(): void;
}

/** Stands before the built application and counts what it sends, whoever asked: page, worker or prefetch. */
export function countingProxy(host: string, port: number, upstream: number): Promise<CountingProxy> {
  const scripts = new Map<string, number>();
  const server: Server = createServer((ask, give) => {
    const onward = request(
      {
        host,
        port: upstream,
        path: ask.url,
        method: ask.method,
        headers: { ...ask.headers, "accept-encoding": "gzip" },
      },
      (answer) => {
        give.writeHead(answer.statusCode ?? 502, answer.headers);
        const isScript = /javascript/.test(answer.headers["content-type"] ?? "");
        answer.on("data", (chunk: Buffer) => {
          if (isScript) scripts.set(ask.url ?? "", (scripts.get(ask.url ?? "") ?? 0) + chunk.length);
          give.write(chunk);
        });
        answer.on("end", () => give.end());
      },
    );
    onward.on("error", () => give.destroy());
    ask.pipe(onward);
  });
  return new Promise((resolve) =>
    server.listen(port, host, () => resolve({ url: `http://${host}:${port}`, scripts, close: () => server.close() })),
  );
}
