/** Hands on what the microphone hears, block by block. */
registerProcessor(
  'hearing',
  class extends AudioWorkletProcessor {
    process(inputs) {
      const channel = inputs[0]?.[0];
      if (channel) this.port.postMessage(channel.slice(0));
      return true;
    }
  },
);
