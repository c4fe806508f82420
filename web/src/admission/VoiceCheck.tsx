import { useCallback, useEffect, useRef, useState } from 'react'
import { useTranslation } from 'react-i18next'
import { openCamera, openMicrophone, toSpeaker, type DeviceFailure } from '../media/devices'
import { Button } from '../ui/Button'

const stop = (stream: MediaStream | null) => stream?.getTracks().forEach((track) => track.stop())

/** The devices as they are tried out before entry; let go when the page is left. */
export function useCheck(supported: boolean) {
  const [camera, setCamera] = useState<MediaStream | null>(null)
  const [microphone, setMicrophone] = useState<MediaStream | null>(null)
  const [cameraFailure, setCameraFailure] = useState<DeviceFailure | null>(null)
  const [microphoneFailure, setMicrophoneFailure] = useState<DeviceFailure | null>(null)
  const [cameraOn, setCameraOn] = useState(true)
  const [microphoneOn, setMicrophoneOn] = useState(false)
  const [listenOnly, setListenOnly] = useState(false)
  const [round, setRound] = useState(0)
  const again = useCallback(() => setRound((n) => n + 1), [])

  useEffect(() => {
    if (!supported || listenOnly || !cameraOn) return
    let stream: MediaStream | null = null
    let over = false
    openCamera().then(
      (opened) => {
        if (over) return stop(opened)
        stream = opened
        setCamera(opened)
        setCameraFailure(null)
      },
      (failure: DeviceFailure) => !over && setCameraFailure(failure),
    )
    return () => {
      over = true
      stop(stream)
      setCamera(null)
    }
  }, [supported, listenOnly, cameraOn, round])

  useEffect(() => {
    if (!supported || listenOnly) return
    let stream: MediaStream | null = null
    let over = false
    openMicrophone().then(
      (opened) => {
        if (over) return stop(opened)
        stream = opened
        setMicrophone(opened)
        setMicrophoneFailure(null)
      },
      (failure: DeviceFailure) => !over && setMicrophoneFailure(failure),
    )
    return () => {
      over = true
      stop(stream)
      setMicrophone(null)
    }
  }, [supported, listenOnly, round])

  const ready = camera !== null || microphone !== null
  return {
    camera,
    microphone,
    cameraFailure,
    microphoneFailure,
    cameraOn,
    setCameraOn,
    microphoneOn,
    setMicrophoneOn,
    listenOnly,
    setListenOnly,
    retry: again,
    devicesChanged: again,
    ready,
  }
}

/** Meter, own voice played back, and a test sound. */
export function VoiceCheck({ check }: { check: ReturnType<typeof useCheck> }) {
  const { t } = useTranslation()
  const level = useLevel(check.microphone)
  const voice = useOwnVoice(check.microphone)
  return (
    <div className="flex flex-col gap-2 border border-line bg-paper p-3.5">
      {check.listenOnly ? (
        <p className="text-[0.844rem] text-ink2">{t('check.listenOnlyHint')}</p>
      ) : check.microphoneFailure ? (
        <>
          <p role="alert" className="text-[0.906rem]">
            {t(`check.microphone${check.microphoneFailure}`)}
          </p>
          <div>
            <Button small onClick={check.retry}>
              {t('common.retry')}
            </Button>
          </div>
        </>
      ) : (
        <>
          <div
            role="meter"
            aria-label={t('check.meter')}
            aria-valuemin={0}
            aria-valuemax={100}
            aria-valuenow={Math.round(level.now * 100)}
            className="h-3 bg-dusk"
          >
            <div className="h-full origin-left bg-moss" style={{ transform: `scaleX(${level.now})` }} />
          </div>
          <p className="text-[0.844rem] text-ink2">{level.quiet ? t('check.quiet') : t('check.speakNow')}</p>
        </>
      )}
      <div className="flex flex-wrap gap-2">
        {check.microphone && (
          <>
            <Button small disabled={voice.state !== 'idle'} onClick={voice.record}>
              {voice.state === 'recording' ? t('check.recording') : t('check.record')}
            </Button>
            <Button small disabled={!voice.recorded || voice.state !== 'idle'} onClick={voice.play}>
              {voice.state === 'playing' ? t('check.playing') : t('check.playBack')}
            </Button>
          </>
        )}
        <Button small onClick={playTestSound}>
          {t('check.testSound')}
        </Button>
      </div>
    </div>
  )
}

function useLevel(stream: MediaStream | null) {
  const [level, setLevel] = useState({ now: 0, quiet: false })
  useEffect(() => {
    if (!stream) return
    const context = new AudioContext()
    const analyser = context.createAnalyser()
    analyser.fftSize = 1024
    context.createMediaStreamSource(stream).connect(analyser)
    const samples = new Float32Array(analyser.fftSize)
    let heardAt = performance.now()
    const timer = setInterval(() => {
      analyser.getFloatTimeDomainData(samples)
      const rms = Math.sqrt(samples.reduce((sum, sample) => sum + sample * sample, 0) / samples.length)
      // -60 dB is an empty bar, -10 dB a full one.
      const now = Math.min(1, Math.max(0, (20 * Math.log10(rms + 1e-6) + 60) / 50))
      if (now > 0.1) heardAt = performance.now()
      setLevel({ now, quiet: context.state === 'running' && performance.now() - heardAt > 6000 })
    }, 80)
    return () => {
      clearInterval(timer)
      void context.close()
    }
  }, [stream])
  return level
}

const recordFor = 4000

function useOwnVoice(stream: MediaStream | null) {
  const [state, setState] = useState<'idle' | 'recording' | 'playing'>('idle')
  const [recorded, setRecorded] = useState<string | null>(null)
  const url = useRef<string | null>(null)
  useEffect(() => () => URL.revokeObjectURL(url.current ?? ''), [])
  const record = () => {
    if (!stream) return
    const parts: Blob[] = []
    const recorder = new MediaRecorder(stream)
    recorder.ondataavailable = (event) => parts.push(event.data)
    recorder.onstop = () => {
      URL.revokeObjectURL(url.current ?? '')
      url.current = URL.createObjectURL(new Blob(parts, { type: recorder.mimeType }))
      setRecorded(url.current)
      setState('idle')
    }
    recorder.start()
    setState('recording')
    setTimeout(() => recorder.state === 'recording' && recorder.stop(), recordFor)
  }
  const play = () => {
    const audio = new Audio(recorded ?? '')
    audio.onended = audio.onerror = () => setState('idle')
    setState('playing')
    audio.play().catch(() => setState('idle'))
  }
  return { state, recorded, record, play }
}

/** Three rising tones of our own. */
function playTestSound() {
  const context = new AudioContext()
  toSpeaker(context)
  ;[392, 494, 587].forEach((frequency, i) => {
    const tone = context.createOscillator()
    const gain = context.createGain()
    tone.frequency.value = frequency
    const at = context.currentTime + i * 0.28
    gain.gain.setValueAtTime(0, at)
    gain.gain.linearRampToValueAtTime(0.25, at + 0.03)
    gain.gain.exponentialRampToValueAtTime(0.001, at + 0.5)
    tone.connect(gain).connect(context.destination)
    tone.start(at)
    tone.stop(at + 0.55)
  })
  setTimeout(() => void context.close(), 1800)
}
