// Hands the microphone's samples to the page as they come. Runs in the browser's audio thread.
registerProcessor(
  "upwind-ear",
  class extends AudioWorkletProcessor {
    process(inputs) {
      const channel = inputs[0]?.[0];
      if (channel) this.port.postMessage(channel.slice(0));
      return true;
    }
  },
);
