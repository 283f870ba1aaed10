import { connect, createServer, type Server, type Socket } from "node:net";
import { Chance } from "./crowd";

/** The way to a server, on loopback, that loses things: questions before they get there, answers to questions that did, and now and then everything for a while. */
export class Way {
  private readonly chance: Chance;
  private readonly open = new Set<Socket>();
  private server: Server | null = null;
  /** of pieces that pass, how many take their connection down with them */
  loses = 0;
  lost = { questions: 0, answers: 0, stalls: 0 };
  port = 0;

  constructor(
    private readonly to: () => number,
    seed: number,
  ) {
    this.chance = new Chance(seed);
  }

  get url(): string {
    return `http://127.0.0.1:${this.port}`;
  }

  async begin(): Promise<void> {
    const server = createServer((client) => this.carry(client));
    this.server = server;
    await new Promise<void>((resolve, reject) => {
      server.once("error", reject);
      server.listen(0, "127.0.0.1", resolve);
    });
    this.port = (server.address() as { port: number }).port;
  }

  private carry(client: Socket): void {
    const server = connect(this.to(), "127.0.0.1");
    const both = [client, server];
    const cut = () => {
      for (const each of both) {
        this.open.delete(each);
        each.destroy();
      }
    };
    for (const each of both) {
      this.open.add(each);
      // Either end's going is the other's too: with a reset, as it is where nothing listens.
      each.on("error", cut);
      each.on("close", cut);
    }
    client.on("data", (piece) => {
      if (this.chance.next() < this.loses / 2) {
        this.lost.questions++;
        return cut();
      }
      if (this.chance.next() < this.loses / 4) this.still(both);
      server.write(piece);
    });
    server.on("data", (piece) => {
      if (this.chance.next() < this.loses / 2) {
        this.lost.answers++;
        // Half of it arrives.
        client.write(piece.subarray(0, piece.length >> 1), cut);
        return;
      }
      client.write(piece);
    });
  }

  /** Nothing passes for a moment, and then goes on. */
  private still(both: readonly Socket[]): void {
    this.lost.stalls++;
    for (const each of both) each.pause();
    setTimeout(() => {
      for (const each of both) each.resume();
    }, 400);
  }

  /** Every connection at once, as when the radio goes. */
  cutAll(): void {
    for (const each of [...this.open]) each.destroy();
  }

  async end(): Promise<void> {
    this.cutAll();
    await new Promise((resolve) => this.server?.close(resolve) ?? resolve(null));
  }
}
