import { encodeThread } from '@mile-thread/core/model';
import {
  DownloadOutlined,
  QuestionOutlined,
  RedoOutlined,
  SearchOutlined,
  UndoOutlined,
} from '@ant-design/icons';
import { Button } from 'antd';
import type { ReactNode } from 'react';
import { Link } from 'react-router';
import clsx from 'clsx';
import type { SaveState, SessionStore } from '../document/session.ts';
import { EditableText } from '../kit/EditableText.tsx';
import { fileName, saveFile } from '../kit/files.ts';
import { LiveStop } from '../kit/LiveStop.tsx';
import barCss from '../kit/bar.module.css';
import css from './frame.module.css';

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
    <header className={barCss.top}>
      <Link to="/" className={barCss.brand} title="To the shelf">
        <img src="/icon.svg" alt="" />
        <span className={barCss.words}>Mile Thread</span>
        <span className="hidden">Shelf</span>
      </Link>
      <span className={barCss.slash} aria-hidden="true">
        /
      </span>
      <h1>
        <EditableText
          label="Name of the thread"
          value={doc.name}
          className={barCss.threadName}
          onCommit={(value) =>
            store.getState().commit('Rename the thread', [{ op: 'replace', path: ['name'], value }])
          }
        />
      </h1>
      <span className={clsx(barCss.saved, save.kind === 'saved' && barCss.done)} role="status">
        {saveWords(save, head)}
      </span>
      <LiveStop />
      <span className={barCss.space} />
      <Tool
        name="Undo"
        icon={<UndoOutlined />}
        title={undo && `Undo: ${undo.label} (Ctrl+Z)`}
        disabled={!undo}
        act={() => store.getState().undo()}
      />
      <Tool
        name="Redo"
        icon={<RedoOutlined />}
        title={redo && `Redo: ${redo.label} (Ctrl+Shift+Z)`}
        disabled={!redo}
        act={() => store.getState().redo()}
      />
      <Tool
        name="Export"
        icon={<DownloadOutlined />}
        title="The thread as a file"
        act={() => saveFile(fileName(doc.name), encodeThread(doc))}
      />
      <Tool
        name="Find anything"
        icon={<SearchOutlined />}
        title="Find anything (Ctrl+K)"
        className={css.findButton}
        act={onFind}
      >
        Find anything <kbd>Ctrl K</kbd>
      </Tool>
      <Tool
        name="Keyboard"
        icon={<QuestionOutlined />}
        title="Keyboard (?)"
        className={barCss.helpButton}
        act={onHelp}
      >
        {null}
      </Tool>
    </header>
  );
}

interface ToolProps {
  /** for who cannot see the icon */
  name: string;
  icon: ReactNode;
  title: string | undefined;
  disabled?: boolean;
  className?: string;
  act(): void;
  /** words beside the icon where there is room; its name where not said, null for none */
  children?: ReactNode;
}

/** A button of the bar: an icon, with words beside it where there is room. */
function Tool({ name, icon, title, disabled, className, act, children = name }: ToolProps) {
  return (
    <Button
      ghost
      size="small"
      icon={icon}
      disabled={disabled}
      className={className}
      aria-label={name}
      title={title}
      onClick={act}
    >
      {children !== null && <span className={barCss.words}>{children}</span>}
    </Button>
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

/** `17:05`. Without the tables of languages: loading them holds the first picture up for a twentieth of a second. */
function clock(at: number): string {
  return new Date(at).toTimeString().slice(0, 5);
}
