import { encodeThread } from '@mile-thread/core/model';
import {
  DownloadOutlined,
  QuestionOutlined,
  RedoOutlined,
  SearchOutlined,
  UndoOutlined,
} from '@ant-design/icons';
import { Button } from 'antd';
import { Link } from 'react-router';
import type { SaveState, SessionStore } from '../document/session.ts';
import { EditableText } from '../kit/EditableText.tsx';
import { fileName, saveFile } from '../kit/files.ts';

interface Props {
  store: SessionStore;
  onFind(): void;
  onHelp(): void;
}

/** The bar over a thread: its name, whether it is kept, and what can be done with it anywhere. */
export function Head({ store, onFind, onHelp }: Props) {
  const { doc, save, head, history } = store();
  const undo = history.find((r) => r.number === head);
  const redo = history.find((r) => r.number === head + 1);
  return (
    <header className="top">
      <Link to="/" className="brand" title="To the shelf">
        <img src="/icon.svg" alt="" />
        <span className="words">Mile Thread</span>
        <span className="hidden">Shelf</span>
      </Link>
      <span className="slash" aria-hidden="true">
        /
      </span>
      <h1>
        <EditableText
          label="Name of the thread"
          value={doc.name}
          className="thread-name"
          onCommit={(value) =>
            store.getState().commit('Rename the thread', [{ op: 'replace', path: ['name'], value }])
          }
        />
      </h1>
      <span className={`saved ${save.kind}`} role="status">
        {saveWords(save, head)}
      </span>
      <span className="space" />
      <Button
        ghost
        size="small"
        icon={<UndoOutlined />}
        disabled={!undo}
        aria-label="Undo"
        title={undo && `Undo: ${undo.label} (Ctrl+Z)`}
        onClick={() => store.getState().undo()}
      >
        <span className="words">Undo</span>
      </Button>
      <Button
        ghost
        size="small"
        icon={<RedoOutlined />}
        disabled={!redo}
        aria-label="Redo"
        title={redo && `Redo: ${redo.label} (Ctrl+Shift+Z)`}
        onClick={() => store.getState().redo()}
      >
        <span className="words">Redo</span>
      </Button>
      <Button
        ghost
        size="small"
        icon={<DownloadOutlined />}
        aria-label="Export"
        title="The thread as a file"
        onClick={() => saveFile(fileName(doc.name), encodeThread(doc))}
      >
        <span className="words">Export</span>
      </Button>
      <Button
        ghost
        size="small"
        icon={<SearchOutlined />}
        className="find-button"
        aria-label="Find anything"
        title="Find anything (Ctrl+K)"
        onClick={onFind}
      >
        <span className="words">
          Find anything <kbd>Ctrl K</kbd>
        </span>
      </Button>
      <Button
        ghost
        size="small"
        icon={<QuestionOutlined />}
        className="help-button"
        aria-label="Keyboard"
        title="Keyboard (?)"
        onClick={onHelp}
      />
    </header>
  );
}

function saveWords(save: SaveState, head: number): string {
  switch (save.kind) {
    case 'saved':
      return `saved ${clock(save.at)} · revision ${head}`;
    case 'saving':
      return 'saving…';
    case 'trouble':
      return 'not saved';
    case 'conflict':
      return 'changed elsewhere';
  }
}

function clock(at: number): string {
  return new Date(at).toLocaleTimeString([], { hour: '2-digit', minute: '2-digit' });
}
