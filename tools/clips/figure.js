// Runs in a page: draws a figure frame by frame and encodes it.
{
  const skins = ['#e0b592', '#c99a73', '#8d5b3e', '#efc9aa', '#d9ac86', '#6b432c', '#b5815a', '#f0d3ba']
  const hairs = ['#8b8a86', '#4a3527', '#1d1714', '#c7a25a', '#3b2a1e', '#141110', '#7a3b20', '#d8d3c8']
  const coats = ['#6b4a33', '#245a56', '#7b2d5b', '#8a6a1c', '#3c6e9f', '#4b6a3a', '#9a4a35', '#59527f']
  const walls = [
    ['#a9bccb', '#5d7f6a'], ['#d8c7a3', '#b08f5c'], ['#b9c7b1', '#7b9477'], ['#c9b6c6', '#8d7590'],
    ['#cfd3d6', '#8b99a3'], ['#e1cfb9', '#a9805c'], ['#a7c0b4', '#4f7a70'], ['#c4c1a6', '#8b8a5f'],
  ]

  const drawFigure = (globalThis.drawFigure = (g, figure, mood, t, seconds) => {
    const turn = (2 * Math.PI * t) / seconds
    const pick = (list, step) => list[(figure * step + (figure >> 3)) % list.length]
    const [wall, accent] = pick(walls, 3)
    g.fillStyle = wall
    g.fillRect(0, 0, 640, 360)
    scenery(g, figure % 4, accent)
    const sway = Math.sin(turn) * 7
    const nod = Math.sin(turn * 2 + figure) * (mood === 'talk' ? 4 : 2)
    const skin = pick(skins, 1)
    g.fillStyle = pick(coats, 5)
    g.beginPath()
    g.moveTo(320 - 175, 360)
    g.quadraticCurveTo(320 - 160 + sway / 2, 252, 320 + sway / 2, 246)
    g.quadraticCurveTo(320 + 160 + sway / 2, 252, 320 + 175, 360)
    g.fill()
    g.fillStyle = skin
    g.fillRect(292 + sway / 2, 205, 56, 56)
    const x = 320 + sway
    const y = 158 + nod
    const long = figure % 3 === 1
    g.fillStyle = pick(hairs, 3)
    if (long) ellipse(g, x, y + 24, 88, 112)
    g.fillStyle = skin
    ellipse(g, x, y, 70, 84)
    ellipse(g, x - 70, y + 4, 11, 16)
    ellipse(g, x + 70, y + 4, 11, 16)
    g.fillStyle = pick(hairs, 3)
    g.beginPath()
    g.ellipse(x, y - 26, 76, 66, 0, Math.PI, 2 * Math.PI)
    g.quadraticCurveTo(x + 60, y - 42, x + (figure % 2 ? 28 : -28), y - 50)
    g.quadraticCurveTo(x - 60, y - 42, x - 76, y - 26)
    g.fill()
    const blink = (t * 1.3 + figure * 0.7) % 3 < 0.16
    g.fillStyle = '#221a18'
    for (const side of [-1, 1]) blink ? g.fillRect(x + side * 27 - 8, y + 2, 16, 3) : ellipse(g, x + side * 27, y + 3, 5.5, 7)
    if (figure % 5 === 2) {
      g.strokeStyle = '#2b3640'
      g.lineWidth = 3
      for (const side of [-1, 1]) {
        g.beginPath()
        g.arc(x + side * 27, y + 3, 19, 0, 7)
        g.stroke()
      }
      g.fillStyle = '#2b3640'
      g.fillRect(x - 9, y + 1, 18, 3)
    }
    const open = mood === 'talk' ? 3 + 11 * Math.abs(Math.sin(t * 9) * Math.sin(t * 5.3 + figure)) : 0
    g.fillStyle = g.strokeStyle = '#5b2f24'
    if (open > 4) ellipse(g, x, y + 44, 17, open)
    else {
      g.lineWidth = 4.5
      g.lineCap = 'round'
      g.beginPath()
      g.moveTo(x - 19, y + 42)
      g.quadraticCurveTo(x, y + 53, x + 19, y + 42)
      g.stroke()
    }
  })

  const scenery = (g, kind, accent) => {
    g.fillStyle = accent
    if (kind === 0) {
      g.beginPath()
      g.moveTo(0, 240)
      g.quadraticCurveTo(170, 170, 330, 226)
      g.quadraticCurveTo(480, 270, 640, 206)
      g.lineTo(640, 360)
      g.lineTo(0, 360)
      g.fill()
    } else if (kind === 1) {
      for (let shelf = 0; shelf < 3; shelf++) {
        g.fillRect(460, 84 + shelf * 84, 170, 9)
        for (let book = 0; book < 7; book++) g.fillRect(468 + book * 22, 84 + shelf * 84 - 34 - ((book * 7 + shelf * 5) % 17), 15, 34 + ((book * 7 + shelf * 5) % 17))
      }
    } else if (kind === 2) {
      g.fillRect(34, 40, 150, 200)
      g.fillStyle = '#f2ede0'
      g.fillRect(44, 50, 60, 180)
      g.fillRect(114, 50, 60, 180)
    } else {
      g.fillRect(0, 250, 640, 110)
      g.fillRect(70, 130, 12, 120)
      ellipse(g, 76, 120, 46, 58)
    }
  }

  const ellipse = (g, x, y, a, b) => {
    g.beginPath()
    g.ellipse(x, y, a, b, 0, 0, 7)
    g.fill()
  }

  globalThis.encodeFigure = async (figure, mood, { width, height, fps, bitrate }) => {
    const seconds = mood === 'talk' ? 4 : 6
    const chunks = []
    const encoder = new VideoEncoder({
      error: (e) => { throw e },
      output: (chunk) => {
        const bytes = new Uint8Array(chunk.byteLength)
        chunk.copyTo(bytes)
        chunks.push(btoa(String.fromCharCode(...bytes)))
      },
    })
    encoder.configure({ codec: 'vp8', width, height, bitrate, framerate: fps, latencyMode: 'realtime', bitrateMode: 'variable' })
    const canvas = new OffscreenCanvas(width, height)
    const g = canvas.getContext('2d')
    g.scale(width / 640, height / 360)
    for (let i = 0; i < seconds * fps; i++) {
      drawFigure(g, figure, mood, i / fps, seconds)
      const frame = new VideoFrame(canvas, { timestamp: (i * 1e6) / fps })
      encoder.encode(frame, { keyFrame: i % (2 * fps) === 0 })
      frame.close()
      if (i % 10 === 9) await encoder.flush()
    }
    await encoder.flush()
    encoder.close()
    return chunks
  }
}
