import { pieceView } from "@/server/pieces/pieceView";
import { idFrom, pageCall, view } from "@/server/page";
import { Piece } from "@/ui/piece/Piece";

export const metadata = { title: "Piece" };

export default async function PiecePage({ params }: { params: Promise<{ pieceId: string }> }) {
  const call = await pageCall("student");
  const piece = await view(pieceView(call, idFrom((await params).pieceId)));
  return <Piece key={`${piece.id} ${piece.moon.state}`} first={piece} />;
}
