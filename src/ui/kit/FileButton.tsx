"use client";
import Button, { type ButtonProps } from "@mui/material/Button";
import { useRef } from "react";

/** A button that opens a file of the person's own. The same file may be opened twice. */
export function FileButton({
  label,
  accept,
  onFile,
  ...button
}: { label: string; accept: string; onFile: (file: File) => void } & Omit<ButtonProps, "onClick">) {
  const file = useRef<HTMLInputElement>(null);
  return (
    <>
      <Button {...button} onClick={() => file.current?.click()} />
      <input
        ref={file}
        type="file"
        accept={accept}
        hidden
        aria-label={label}
        onChange={(event) => {
          const chosen = event.target.files?.[0];
          event.target.value = "";
          if (chosen) onFile(chosen);
        }}
      />
    </>
  );
}
