"use client";

export default function PageError({ reset }: { error: Error; reset: () => void }) {
  return (
    <main style={{ padding: 48, maxWidth: 520 }}>
      <h1>This page met a fault</h1>
      <p>Nothing saved was lost. The server's log has the cause.</p>
      <button type="button" onClick={reset}>
        Try again
      </button>
    </main>
  );
}
