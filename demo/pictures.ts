import sharp from 'sharp'

/** What a made-up photo shows. */
export type Picture = 'pipe' | 'outlet' | 'grid' | 'course'

const DRAWN: Readonly<Record<Picture, string>> = {
  pipe: `<rect width="1600" height="1200" fill="#6f5d45"/><path d="M0 260L1600 180V0H0Z" fill="#8d8574"/><path d="M0 420L1600 330V900L0 1010Z" fill="#a9a294"/>
    <g fill="#c4beb0" stroke="#7d776a" stroke-width="3">${stones(160)}</g>
    <path d="M-20 720L1620 640" stroke="#20262a" stroke-width="92"/><path d="M-20 700L1620 620" stroke="#3d464c" stroke-width="22"/>
    <g stroke="#0f1214" stroke-width="5">${Array.from({ length: 80 }, (_, i) => `<path d="M${i * 21} ${768 - i * 1.02}v-92"/>`).join('')}</g>`,
  outlet: `<rect width="1600" height="1200" fill="#5d6a4b"/><path d="M0 700Q800 560 1600 760V1200H0Z" fill="#7a6a4f"/><g fill="#b9b3a4" stroke="#726c5f" stroke-width="3">${stones(110)}</g>
    <circle cx="800" cy="600" r="150" fill="#20262a"/><circle cx="800" cy="600" r="112" fill="#0b0d0e"/><path d="M700 600h200M800 500v200M725 530l150 140M875 530l-150 140" stroke="#8b949a" stroke-width="9"/>
    <path d="M760 740q40 200 -30 460" stroke="#c9d6dc" stroke-width="26" fill="none" opacity=".8"/>`,
  grid: `<rect width="1600" height="1200" fill="#8a7a60"/><g stroke="#15191c" stroke-width="7">${Array.from({ length: 60 }, (_, i) => `<path d="M${i * 28} 240V1200"/>`).join('')}${Array.from({ length: 9 }, (_, i) => `<path d="M0 ${250 + i * 112}H1600" stroke-width="12"/>`).join('')}</g>
    ${blocks(8, 60)}`,
  course: `<rect width="1600" height="1200" fill="#8f9aa0"/><rect y="900" width="1600" height="300" fill="#7a6a4f"/>${blocks(0, 640)}${blocks(100, 380)}${blocks(0, 120)}`,
}
function stones(count: number): string {
  let seed = 11
  const next = () => {
    seed = (seed * 1103515245 + 12345) % 2147483648
    return seed / 2147483648
  }
  return Array.from({ length: count }, () => {
    const [x, y, r] = [next() * 1600, 430 + next() * 640, 18 + next() * 30]
    return `<ellipse cx="${x.toFixed(0)}" cy="${y.toFixed(0)}" rx="${r.toFixed(0)}" ry="${(r * 0.7).toFixed(0)}"/>`
  }).join('')
}
function blocks(shift: number, y: number): string {
  return Array.from(
    { length: 9 },
    (_, i) => `<rect x="${i * 200 - shift}" y="${y}" width="192" height="240" fill="#b7b2a8" stroke="#6b675f" stroke-width="5"/>`,
  ).join('')
}

/** A made-up photo as a phone would send it, with time and place. */
export const pictureOf = (what: Picture, at: Date) =>
  sharp(Buffer.from(`<svg xmlns="http://www.w3.org/2000/svg" width="1600" height="1200">${DRAWN[what]}</svg>`))
    .withExif({
      IFD0: { Make: 'Tidewrack', Model: 'Site phone' },
      IFD2: { DateTimeOriginal: at.toISOString().slice(0, 19).replace('T', ' ').replace(/-/g, ':') },
      IFD3: { GPSLatitudeRef: 'N', GPSLatitude: '1/1 2/1 3/1', GPSLongitudeRef: 'W', GPSLongitude: '1/1 2/1 3/1' },
    })
    .jpeg({ quality: 80 })
    .toBuffer()
