import {
  BoardBox,
  MOST_BOARDS,
  USUAL_PACKING,
  type Edit,
  type ThreadDocument,
} from '@mile-thread/core/model';
import type { Commit } from '../../../document/session.ts';
import { EditableQuantity } from '../../../kit/EditableQuantity.tsx';
import { EditableText } from '../../../kit/EditableText.tsx';
import { millimetres } from '../../../kit/words.ts';
import { RemoveLink } from '../RemoveLink.tsx';
import valuesCss from '../../../kit/values.module.css';

/** A board to begin with. */
const FRESH: BoardBox = { name: 'Protection board', length: 0.05, width: 0.018, height: 0.004 };
const SIDES = ['length', 'width', 'height'] as const;

/** Boards that share the room with the cells. */
export function Boards({ doc, commit }: { doc: ThreadDocument; commit: Commit }) {
  const { packing } = doc.pack;
  const boards = packing?.boards ?? [];
  const put = (label: string, next: BoardBox[]) => {
    const { boards: before, ...rest } = packing ?? USUAL_PACKING;
    void before;
    const value = next.length > 0 ? { ...rest, boards: next } : rest;
    const edit: Edit = { op: packing ? 'replace' : 'add', path: ['pack', 'packing'], value };
    return commit(label, [edit]);
  };
  const change = (k: number, label: string, part: Partial<BoardBox>) =>
    put(
      label,
      boards.map((b, n) => (n === k ? { ...b, ...part } : b)),
    );
  return (
    <>
      {boards.map((board, k) => (
        <div className={valuesCss.row} key={k}>
          <span>
            <EditableText
              label={`Board ${k + 1}`}
              value={board.name}
              onCommit={(name) => change(k, 'Rename a board', { name })}
            />{' '}
            <RemoveLink
              label={`Remove ${board.name}`}
              onClick={() =>
                put(
                  `Remove ${board.name}`,
                  boards.filter((_, n) => n !== k),
                )
              }
            />
          </span>
          <b>
            {SIDES.map((side, n) => (
              <span key={side}>
                {n > 0 && ' × '}
                <EditableQuantity
                  label={`${board.name}, ${side}`}
                  value={board[side] * 1000}
                  unit="mm"
                  shown={millimetres(board[side])}
                  onCommit={(v) => change(k, `Change ${board.name}`, { [side]: v! / 1000 })}
                />
              </span>
            ))}
          </b>
        </div>
      ))}
      {boards.length < MOST_BOARDS && (
        <div className={valuesCss.row}>
          <span>Boards beside the cells</span>
          <button type="button" className="link" onClick={() => put('Add a board', [...boards, FRESH])}>
            {boards.length === 0 ? 'none, add' : 'add another'}
          </button>
        </div>
      )}
    </>
  );
}
