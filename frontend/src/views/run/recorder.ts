import { asWav } from './sounds';

const RATE = 48_000;
/** A line that goes on for longer was forgotten; it is ended, and kept. */
export const MOST_S = 180;

/** Why nothing can be recorded, in words. */
export class NoMicrophone extends Error {}

/** A recording under way: how loud it is just now (0 to 1), and whether it has clipped. */
export class Recording {
  level = 0;
  clipped = false;
  seconds = 0;
  #parts: Float32Array[] = [];

  private constructor(
    private readonly context: AudioContext,
    private readonly stream: MediaStream,
  ) {}

  /** Begin to record; the browser may ask first. Throws NoMicrophone. */
  static async begin(told: (recording: Recording) => void): Promise<Recording> {
    if (!navigator.mediaDevices?.getUserMedia) throw new NoMicrophone('This browser lets no page record here. Open Juxtaform at its own address on this machine, or lay a sound file.');
    let stream: MediaStream;
    try {
      stream = await navigator.mediaDevices.getUserMedia({ audio: { channelCount: 1, echoCancellation: false, noiseSuppression: false, autoGainControl: false } });
    } catch (error) {
      const denied = error instanceof DOMException && error.name === 'NotAllowedError';
      throw new NoMicrophone(denied ? 'The browser does not let this page hear the microphone. Allow it beside the address, then record again.' : 'No microphone was found. Plug one in, or lay a sound file.');
    }
    const context = new AudioContext({ sampleRate: RATE });
    try {
      await context.audioWorklet.addModule('/assets/recorder-worklet.js');
    } catch {
      stream.getTracks().forEach((t) => t.stop());
      await context.close();
      throw new NoMicrophone('The recorder could not be loaded. Load the page again.');
    }
    const own = new Recording(context, stream);
    const hearing = new AudioWorkletNode(context, 'hearing', { numberOfOutputs: 0 });
    hearing.port.onmessage = ({ data }: MessageEvent<Float32Array>) => {
      own.#take(data);
      told(own);
    };
    context.createMediaStreamSource(stream).connect(hearing);
    return own;
  }

  #take(part: Float32Array) {
    if (this.seconds > MOST_S) return;
    this.#parts.push(part);
    this.seconds += part.length / RATE;
    let high = 0;
    for (const v of part) high = Math.max(high, Math.abs(v));
    this.level = Math.max(high, this.level * 0.9);
    if (high >= 0.999) this.clipped = true;
  }

  /** End it; what was heard as a WAV file. */
  async end(): Promise<Blob> {
    this.stream.getTracks().forEach((t) => t.stop());
    await this.context.close();
    return asWav(this.#parts, RATE);
  }
}
