import { App as AntApp } from 'antd';
import type { Commit } from '../../document/session.ts';
import { useSession } from '../../document/useSession.ts';
import { useNeedle } from '../../document/view.ts';
import { useFindings } from '../../jobs/client.ts';
import { Findings } from '../../kit/Findings.tsx';

/** What the checks say of the open thread, each with the way to its place and its instant. */
export function PathFindings({ commit, select }: { commit: Commit; select(element: string): void }) {
  const doc = useSession()((s) => s.doc);
  const { message } = AntApp.useApp();
  return (
    <Findings
      findings={useFindings(doc)}
      onMove={useNeedle.getState().moveTo}
      onSelect={select}
      onApply={(f) => {
        const issues = commit(f.action!.label, f.action!.edits);
        if (issues.length === 0) void message.success(`${f.action!.label}: done. Ctrl+Z takes it back.`);
        else void message.error(`Not possible here: ${issues[0]!.allowed}`);
      }}
    />
  );
}
