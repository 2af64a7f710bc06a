import sharp from 'sharp'

/** Pictures with more pixels than this are refused before they are unpacked: a small file can hold a huge one. */
export const PIXELS = 80_000_000
const THUMB = 480

/** What is done with a picture: its place taken out, and a small one made. */
export interface PictureAsked {
  readonly bytes: Buffer
  readonly type: string
  /** Take the place out: it is packed anew with time and camera only, so that no other field can hold it either. */
  readonly strip: boolean
  readonly taken?: string | undefined
  readonly camera?: string | undefined
}
export interface PictureMade {
  readonly content: Buffer
  readonly thumb: Buffer
  /** Seen upright, pixels. */
  readonly width: number
  readonly height: number
}

const withoutPlace = ({ bytes, type, taken, camera }: PictureAsked) => {
  const exif = {
    IFD0: { ...(camera ? { Model: camera } : {}) },
    IFD2: { ...(taken ? { DateTimeOriginal: taken.replace(/-/g, ':').replace('T', ' ') } : {}) },
  }
  const open = sharp(bytes, { limitInputPixels: PIXELS }).rotate().keepIccProfile().withExif(exif)
  return (type === 'image/png' ? open.png() : type === 'image/webp' ? open.webp({ quality: 90 }) : open.jpeg({ quality: 92 })).toBuffer()
}

/** Unpacks a picture: what takes memory for every pixel of it. @throws what the library says of bytes that are no picture */
export async function pictureOf(asked: PictureAsked): Promise<PictureMade> {
  const content = asked.strip ? await withoutPlace(asked) : asked.bytes
  const thumb = await sharp(content, { limitInputPixels: PIXELS, failOn: 'error' })
    .rotate()
    .resize(THUMB, THUMB, { fit: 'inside', withoutEnlargement: true })
    .jpeg({ quality: 76 })
    .toBuffer()
  const size = await sharp(content).metadata()
  // A camera held sideways says so beside the picture.
  const turned = (size.orientation ?? 1) >= 5
  return { content, thumb, width: (turned ? size.height : size.width) ?? 1, height: (turned ? size.width : size.height) ?? 1 }
}
