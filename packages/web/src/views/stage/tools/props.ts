import type { Edit, Stage, ThreadDocument } from '@mile-thread/core/model';
import type { Commit } from '../../../document/session.ts';
import type { SizedThreadStage } from '../../../jobs/client.ts';

/** What every tool of the Stage view gets. */
export interface ToolProps {
  doc: ThreadDocument;
  stage: Stage;
  /** of the stage in the document */
  path: Edit['path'];
  sized: SizedThreadStage;
  commit: Commit;
}
