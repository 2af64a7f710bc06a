import { askingAbout, guarded, refuse } from '@/server/http'
import { takeUpload } from '@/server/photo-upload'

type Params = { params: Promise<{ id: string }> }

/**
 * Takes a photo in, as the bytes of the body; `name` and `strip=1` in the address. The answer is what an entry says of it. With `upload`,
 * `at` and `size` the body is a piece of it: the answer (202) says how much is here until it is whole.
 */
export const POST = guarded(async (request: Request, { params }: Params) => {
  const who = await askingAbout(request, (await params).id)
  if (who instanceof Response) return who
  const maker = new URL(request.url).searchParams.get('person')
  if (maker !== null && maker !== who.person.id) return refuse(403, 'another person is signed in; this photo waits for the one who took it')
  return takeUpload({ device: who.session.id, person: who.person.id, wall: who.wall.id, company: who.person.companyId }, request)
})
