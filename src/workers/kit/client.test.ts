import fc from "fast-check";
import { describe, expect, it } from "vitest";
import { Superseded, TaskClient } from "./client";
import { type FromTaskWorker, type ToTaskWorker, WorkerFault } from "./messages";

interface Tasks {
  double: { job: number; result: number };
}

/** Workers whose answers a scheduler lets through: each doubles what it is given, says halfway that it is at it, throws for what it will not have, and can die of it. */
class Workshop {
  made = 0;
  ended = 0;
  constructor(private readonly way: fc.Scheduler) {}
  make = (): Worker => {
    this.made++;
    let alive = true;
    const worker = {
      onmessage: null as ((event: { data: FromTaskWorker }) => void) | null,
      onerror: null as ((event: { message: string }) => void) | null,
      onmessageerror: null as (() => void) | null,
      postMessage: ({ run, job }: ToTaskWorker) => {
        if (job === "unsendable") throw new Error("could not be cloned");
        const say = async (data: FromTaskWorker) => {
          await this.way.schedule(Promise.resolve(), `${data.kind} ${run}`);
          if (alive) worker.onmessage?.({ data });
        };
        void (async () => {
          await say({ kind: "progress", run, share: 0.5, doing: "doubling" });
          if (job === 13) await say({ kind: "failed", run, code: "outside-domain", message: "not 13" });
          else if (job === 66) {
            if (alive) worker.onerror?.({ message: "died" });
          } else await say({ kind: "done", run, result: 2 * (job as number) });
        })();
      },
      terminate: () => {
        if (alive) this.ended++;
        alive = false;
      },
    };
    return worker as unknown as Worker;
  };
}

type Action = { submit: number } | { callOff: number } | { comesThrough: number };
const action: fc.Arbitrary<Action> = fc.oneof(
  { weight: 4, arbitrary: fc.record({ submit: fc.oneof(fc.integer({ min: 1, max: 9 }), fc.constantFrom(13, 66)) }) },
  { weight: 2, arbitrary: fc.record({ callOff: fc.nat({ max: 9 }) }) },
  { weight: 4, arbitrary: fc.record({ comesThrough: fc.integer({ min: 1, max: 3 }) }) },
);

describe("tasks asked of a worker, in any order of asking, calling off and answering", () => {
  it("each caller hears once and of its own question; only the newest waits; after all of it the next one is answered", async () => {
    await fc.assert(
      fc.asyncProperty(fc.scheduler(), fc.array(action, { maxLength: 25 }), async (way, actions) => {
        const shop = new Workshop(way);
        const client = new TaskClient<Tasks, "double">("double", shop.make);
        const requested: { job: number; abort: AbortController; messages: unknown[]; calledOff: boolean }[] = [];
        const submit = (job: number) => {
          const call = { job, abort: new AbortController(), messages: [] as unknown[], calledOff: false };
          requested.push(call);
          client.submit(job, { signal: call.abort.signal, onProgress: () => expect(call.messages).toEqual([]) }).then(
            (result) => call.messages.push(result),
            (error) => call.messages.push(error),
          );
        };
        const turn = () => new Promise((resolve) => setImmediate(resolve));
        for (const each of actions) {
          if ("submit" in each) submit(each.submit);
          else if ("callOff" in each) {
            const call = requested[each.callOff];
            if (call) {
              call.calledOff = call.messages.length === 0;
              call.abort.abort();
            }
          } else for (let i = 0; i < each.comesThrough && way.count() > 0; i++) await way.waitOne();
          await turn();
          // One at work and one that waits for it at most: anyone who else has not heard was overtaken, and knows it.
          expect(requested.filter(({ messages }) => messages.length === 0).length).toBeLessThanOrEqual(2);
        }
        submit(21);
        for (let i = 0; i < 200 && (way.count() > 0 || requested.at(-1)?.messages.length === 0); i++) {
          if (way.count() > 0) await way.waitOne();
          await turn();
        }
        // The last may have been taken along by the one before it that died: then it knows, and a fresh worker answers the next.
        const died = actions.some((each) => "submit" in each && each.submit === 66);
        for (const { job, messages, calledOff } of requested) {
          expect(messages).toHaveLength(1);
          const [found] = messages;
          if (found instanceof WorkerFault) expect(found.code === "outside-domain" ? job : died).toBe(found.code === "outside-domain" ? 13 : true);
          else if (!(found instanceof Superseded)) expect(found).toBe(2 * job);
          if (calledOff) expect(found).toBeInstanceOf(Error);
        }
        submit(34);
        while (way.count() > 0) {
          await way.waitOne();
          await turn();
        }
        expect(requested.at(-1)?.messages).toEqual([68]);
        client.close();
        expect(shop.made).toBe(shop.ended);
      }),
      { numRuns: 150 },
    );
  });

  it("what cannot be sent is refused to its own caller and holds up nobody; called off before it is asked it is never sent", async () => {
    const way = { schedule: async (done: Promise<void>) => done } as unknown as fc.Scheduler;
    const shop = new Workshop(way);
    const client = new TaskClient<Tasks, "double">("double", shop.make);
    await expect(client.submit("unsendable" as never)).rejects.toMatchObject({ code: "unreadable", message: expect.stringMatching(/cannot be asked/) });
    await expect(client.submit(4)).resolves.toBe(8);
    const off = new AbortController();
    off.abort();
    await expect(client.submit(4, { signal: off.signal })).rejects.toBeInstanceOf(Superseded);
    await expect(client.submit(66)).rejects.toMatchObject({ code: "worker-failed", message: "died" });
    expect([shop.made, shop.ended]).toEqual([1, 1]);
    await expect(client.submit(5)).resolves.toBe(10);
    expect(shop.made).toBe(2);
  });
});
