// What an audio worklet's global scope holds.
declare const sampleRate: number
declare function registerProcessor(name: string, processor: new () => AudioWorkletProcessor): void
declare abstract class AudioWorkletProcessor {
  readonly port: MessagePort
  abstract process(inputs: Float32Array[][], outputs: Float32Array[][]): boolean
}
interface Window {
  holdCourtDiagnostics?: () => import('./engine').Diagnostics
}
