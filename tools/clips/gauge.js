// A made-up page that moves, for an extra that shares a screen: readings of a gauge, drawn in the browser.
{
  const [width, height, fps, seconds] = [1280, 720, 10, 12]

  /** Metres at a moment; the last is the first again, so that the clip goes round. */
  const level = (at) => 0.84 + 0.22 * Math.sin(at * 2 * Math.PI) + 0.06 * Math.sin(at * 14 * Math.PI)

  const draw = (g, at) => {
    g.fillStyle = '#fbfaf6'
    g.fillRect(0, 0, width, height)
    g.fillStyle = '#22443f'
    g.font = '600 34px Georgia, serif'
    g.fillText('Withy Weir gauge, made-up readings', 60, 78)
    g.font = '20px sans-serif'
    g.fillStyle = '#4d5c58'
    for (let line = 0; line <= 6; line++) {
      const y = 620 - line * 80
      g.fillStyle = '#d9d4c6'
      g.fillRect(120, y, 1090, 1)
      g.fillStyle = '#4d5c58'
      g.fillText(`${(0.4 + line * 0.15).toFixed(2)} m`, 40, y + 7)
    }
    g.strokeStyle = '#2f6f8f'
    g.lineWidth = 5
    g.beginPath()
    for (let x = 0; x <= 1090; x += 10) {
      const y = 620 - ((level(at + x / 1090 - 1) - 0.4) / 0.15) * 80
      if (x === 0) g.moveTo(120 + x, y)
      else g.lineTo(120 + x, y)
    }
    g.stroke()
    g.fillStyle = '#22443f'
    g.font = '600 56px Georgia, serif'
    g.fillText(`${level(at).toFixed(2)} m`, 1010, 110)
    g.font = '18px sans-serif'
    g.fillText('now', 1010, 136)
  }

  globalThis.gaugeLayer = { width, height, fps }
  globalThis.encodeGauge = async () => {
    const chunks = []
    const encoder = new VideoEncoder({
      error: (e) => {
        throw e
      },
      output: (chunk) => {
        const bytes = new Uint8Array(chunk.byteLength)
        chunk.copyTo(bytes)
        let text = ''
        for (let at = 0; at < bytes.length; at += 8192) text += String.fromCharCode(...bytes.subarray(at, at + 8192))
        chunks.push(btoa(text))
      },
    })
    encoder.configure({ codec: 'vp8', width, height, bitrate: 700_000, framerate: fps, latencyMode: 'quality', bitrateMode: 'variable' })
    const canvas = new OffscreenCanvas(width, height)
    const g = canvas.getContext('2d')
    for (let i = 0; i < seconds * fps; i++) {
      draw(g, i / (seconds * fps))
      const frame = new VideoFrame(canvas, { timestamp: (i * 1e6) / fps })
      encoder.encode(frame, { keyFrame: i % (3 * fps) === 0 })
      frame.close()
      if (i % 10 === 9) await encoder.flush()
    }
    await encoder.flush()
    encoder.close()
    return chunks
  }
}
