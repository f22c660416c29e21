'use client';

import { group, setFields, type Dimension } from '@calque/core/model';
import { useSession } from '@/project/context';
import { LengthField } from '@/ui/length-field';
import { shared } from '@/ui/shared-value';

/** The height of figures. */
export function DimensionFields({ chosen }: { chosen: readonly Dimension[] }) {
  const session = useSession();
  return (
    <LengthField
      label="Height of figures"
      value={shared(chosen, (e) => e.height)}
      onChange={(height) =>
        session.do(
          group(chosen.map((e) => setFields<Dimension>(e, { height }))),
          'Change the height of figures',
        )
      }
    />
  );
}
