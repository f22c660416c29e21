'use client';

import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import { frameArchive, ncArchive, plateArchive } from '@calque/core/exchange';
import { hasJoints, joinedFrame } from '@calque/core/framing';
import { knownSection, ofType, settingsOf, tracedOn, type Model } from '@calque/core/model';
import { CommandButton } from '@/commands/context';
import { useFromModel, useSession } from '@/project/context';
import { useDelivered } from '@/project/delivered';
import { saveText } from '@/ui/save-text';
import { Row } from './row';
import { FORMATS, useWriting } from './writing';

const hasSteelMembers = (model: Model): boolean =>
  ofType(model, 'member').some((m) => knownSection(m.section)?.material === 'steel');
const hasPlates = (model: Model): boolean => hasJoints(model) && joinedFrame(model).plates.length > 0;
const hasMembers = (model: Model): boolean =>
  model.hasType('member') || model.hasType('plate') || model.hasType('assembly');

const hasFrames = (model: Model): boolean =>
  hasMembers(model) && ofType(model, 'plane').some((p) => tracedOn(model, p.id).length > 0);

/** The frame as solids, its plates, and its pieces for the saw; nothing where there is no member. */
export function FrameRows() {
  const session = useSession(),
    { name } = useFromModel(settingsOf),
    hasSteel = useFromModel(hasSteelMembers),
    plates = useFromModel(hasPlates),
    members = useFromModel(hasMembers),
    frames = useFromModel(hasFrames),
    { writing, write, stop } = useWriting();
  const archive = (what: string, bytes: Uint8Array<ArrayBuffer> | null) => {
    if (!bytes) return;
    saveText(`${name} ${what}.zip`, bytes, 'application/zip');
    useDelivered.getState().again();
  };
  return (
    <>
      <Row
        title="Frame as solids (STEP)"
        words={
          members
            ? 'Members as they are cut, with what is welded to them as assemblies; drilled plates, bolts; millimetres. It carries no building beside the frame; bolt holes are drilled where both their faces are flat.'
            : 'Draw members or plates first: they are written as solids.'
        }
      >
        <Button
          variant="contained"
          disabled={!members || writing !== null}
          onClick={() => write({ make: 'step', at: new Date().toISOString().slice(0, 19) }, name)}
        >
          Write STEP
        </Button>
        {writing && (
          <Typography role="status" color="text.secondary">
            The {FORMATS[writing][0]} is being written … <Button onClick={stop}>Stop</Button>
          </Typography>
        )}
      </Row>
      <Row
        title="Plates (DXF)"
        words={
          plates
            ? 'A file for each mark at true size, in one archive: outline, holes, and mark with thickness and number. It carries no welds.'
            : 'Draw plates, or make ends of members with plates first: a file is written for each of their marks.'
        }
      >
        <Button
          variant="contained"
          disabled={!plates}
          onClick={() => archive('plates', plateArchive(session.state.model))}
        >
          Write plates
        </Button>
      </Row>
      <Row
        title="For the shop (PDF)"
        words={
          members
            ? 'Drawings on A3, each at its own scale: the frame of each upright plane with marks and levels, each piece with what is welded to it, each plate; holes and lengths with dimensions. Long pieces are drawn broken. Mark equal pieces first. They are no design.'
            : 'Draw members or plates first: each piece is drawn once with its dimensions.'
        }
      >
        <Button
          variant="contained"
          disabled={!members || writing !== null}
          onClick={() => write({ make: 'shop', date: new Date().toISOString().slice(0, 10) }, name)}
        >
          Write drawings
        </Button>
        <Button
          variant="outlined"
          disabled={!frames}
          onClick={() => archive('frames', frameArchive(session.state.model))}
        >
          Frames as DXF
        </Button>
      </Row>
      <Row
        title="For the saw (NC)"
        words={
          hasSteel
            ? 'A text file for each mark of steel members and plates (DSTV), in one archive: header with the angles of its cuts, contours with copes and openings, holes. It carries no welds and no cleats.'
            : 'Draw members of steel first: a file is made for each of their marks.'
        }
      >
        <Button
          variant="contained"
          disabled={!hasSteel}
          onClick={() => archive('nc', ncArchive(session.state.model))}
        >
          Write NC
        </Button>
        <CommandButton id="mark-members" label="Mark equal pieces" />
      </Row>
    </>
  );
}
