import { endedSession } from '@/server/accounts'
import { foreign, guarded, refuse } from '@/server/http'
import { takeUpload } from '@/server/photo-upload'
import { isWallOf } from '@/server/set-aside'

/** Takes in a photo that waited on a device the office signed out; what is said of it is set aside like any entry. */
export const POST = guarded(async (request: Request, { params }: { params: Promise<{ id: string }> }) => {
  const wrong = foreign(request)
  if (wrong) return wrong
  const who = await endedSession(request.headers)
  if (!who) return refuse(401, 'this is for a device that was signed out by the office')
  const { id } = await params
  if (!(await isWallOf(id, who.companyId))) return refuse(404, 'is not a wall of yours')
  return takeUpload({ device: who.device, person: who.person, wall: id, company: who.companyId }, request)
})
