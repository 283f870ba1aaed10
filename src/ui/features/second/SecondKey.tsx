"use client";
import "../../kit/theme/second.css";
import Button from "@mui/material/Button";
import Dialog from "@mui/material/Dialog";
import DialogActions from "@mui/material/DialogActions";
import DialogContent from "@mui/material/DialogContent";
import DialogTitle from "@mui/material/DialogTitle";
import { toString as qrCode } from "qrcode";
import { useEffect, useState } from "react";
import { ApiError, api, type SecondAbout } from "../../kit/api";

const LOOPBACK = /^(localhost|127\.|\[::1\])/;

/** Where another device finds it: the address this page was opened by, or, opened on the server's own computer, those by which others reach that. */
export const joinAddresses = (ticket: string, { host, protocol, port }: Pick<Location, "host" | "protocol" | "port">, reached: readonly string[]): string[] => {
  const hosts = LOOPBACK.test(host) && reached.length > 0 ? reached.map((each) => (port ? `${each}:${port}` : each)) : [host];
  return hosts.map((each) => `${protocol}//${each}/second/${ticket}`);
};

/**
 * Opens a second screen for what is on this one, and shows the code by which it is joined.
 * @param onTicket hears of the ticket once it is there; null when it is put down
 */
export function SecondKey({
  about,
  ticket,
  onTicket,
  joined,
}: {
  about: () => SecondAbout;
  ticket: string | null;
  onTicket: (ticket: string | null) => void;
  /** what is known of the other side, in words */
  joined: string;
}) {
  const [open, setOpen] = useState(false);
  const [addresses, setAddresses] = useState<readonly string[]>([]);
  const [at, setAt] = useState(0);
  const [code, setCode] = useState<string | null>(null);
  const [fault, setFault] = useState<string | null>(null);
  const address = addresses[at];
  useEffect(() => {
    if (address)
      void qrCode(address, { type: "svg", margin: 2, errorCorrectionLevel: "M" }).then(
        (svg) => setCode(`data:image/svg+xml,${encodeURIComponent(svg)}`),
        () => setFault("The code could not be drawn: type the address."),
      );
  }, [address]);
  const show = async () => {
    setFault(null);
    setOpen(true);
    if (ticket !== null && addresses.length > 0) return;
    try {
      // After a reload its ticket is still good.
      const made = ticket === null ? await api.second.make(about()) : { ticket, view: await api.second.get(ticket) };
      setAddresses(joinAddresses(made.ticket, window.location, made.view.addresses ?? []));
      if (ticket === null) onTicket(made.ticket);
    } catch (error) {
      if (!(error instanceof ApiError)) throw error;
      setFault(error.message);
    }
  };
  const putDown = async () => {
    if (ticket !== null) await api.second.act(ticket, { do: "end" }).catch(() => undefined);
    setAddresses([]);
    setCode(null);
    onTicket(null);
    setOpen(false);
  };
  return (
    <>
      <button type="button" className="second-key" aria-pressed={ticket !== null} onClick={() => void show()}>
        second screen
      </button>
      <Dialog open={open} onClose={() => setOpen(false)} aria-labelledby="second-title">
        <DialogTitle id="second-title">A second screen</DialogTitle>
        <DialogContent>
          {fault && <p role="alert">{fault}</p>}
          {address && (
            <div className="second-code">
              {/* biome-ignore lint/performance/noImgElement: drawn here, from nowhere else */}
              {code && <img src={code} alt="Code that leads to the second screen" width={240} height={240} />}
              <div>
                <p>Scan it with a phone or tablet on the same network, or open</p>
                <p className="num second-address">{address}</p>
                {addresses.length > 1 && (
                  <Button size="small" onClick={() => setAt((at + 1) % addresses.length)}>
                    Another address of this computer
                  </Button>
                )}
                {LOOPBACK.test(new URL(address).host) && (
                  <p>This workshop answers its own computer alone: other devices reach it once it is started with HOST and a phrase.</p>
                )}
                <p role="status">{joined}</p>
                <p className="plain-page-small">The ticket in it opens this one thing alone, for two hours or until it is put down.</p>
              </div>
            </div>
          )}
        </DialogContent>
        <DialogActions>
          <Button onClick={() => void putDown()}>Put it down</Button>
          <Button variant="contained" onClick={() => setOpen(false)}>
            To the work
          </Button>
        </DialogActions>
      </Dialog>
    </>
  );
}
