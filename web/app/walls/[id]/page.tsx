import { BoardPlace } from '@/features/house/pages'

export default function Page() {
  return <BoardPlace />
}
