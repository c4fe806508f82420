export interface Layer {
  width: number
  height: number
  bitrate: number
  framerate: number
}

export interface Profile {
  full: Layer
  thumb: Layer
  echoCancelling: boolean
}

const usual: Profile = {
  full: { width: 640, height: 360, bitrate: 500_000, framerate: 20 },
  thumb: { width: 160, height: 90, bitrate: 60_000, framerate: 7 },
  echoCancelling: true,
}

/** For weak machines, and for several pages on one: smaller pictures, fewer of them, no sound processing. */
const light: Profile = {
  full: { width: 320, height: 180, bitrate: 150_000, framerate: 10 },
  thumb: { width: 160, height: 90, bitrate: 40_000, framerate: 4 },
  echoCancelling: false,
}

/** `?profile=light` in the address chooses the light one, for as long as the tab lives. */
export function profile(): Profile {
  if (new URLSearchParams(location.search).get('profile') === 'light') sessionStorage.setItem('profile', 'light')
  return sessionStorage.getItem('profile') === 'light' ? light : usual
}
