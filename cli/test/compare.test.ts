import { describe, expect, it } from 'vitest';
import { calque, sheet } from './calque.ts';

describe('calque compare', () => {
  it('lays one page onto the other and lists what differs, in points of the new page', () => {
    const { status, out } = calque(
      'compare',
      sheet('01_cairo_plan_100.pdf'),
      sheet('06g_rotate270_crop_userunit15.pdf'),
      '--json',
    );
    expect(status).toBe(0);
    const fit = JSON.parse(out) as {
      transform: number[];
      scale: number;
      radians: number;
      residual: number;
      added: number;
      gone: number;
      addedSegments: number[][];
      goneSegments: number[][];
    };
    expect(fit.scale).toBeCloseTo(1.5, 5);
    expect(fit.radians).toBeCloseTo(Math.PI / 2, 5);
    expect(fit.residual).toBeLessThan(0.01);
    expect(fit.transform).toHaveLength(6);
    expect([fit.addedSegments.length, fit.goneSegments.length]).toEqual([fit.added, fit.gone]);
    expect(fit.added + fit.gone).toBeLessThan(20);
    expect(calque('compare', sheet('01_cairo_plan_100.pdf'), sheet('13d_xref_damaged.pdf')).out).toContain(
      '0 lines added, 0 gone',
    );
  });
  it('refuses what cannot be compared, in words', () => {
    expect(
      calque('compare', sheet('01_cairo_plan_100.pdf'), sheet('05_rsvg_nested_forms_clips.pdf')),
    ).toMatchObject({ status: 3, err: expect.stringContaining('too little in common') });
    expect(calque('compare', sheet('01_cairo_plan_100.pdf'), sheet('08a_scan_200dpi.pdf'))).toMatchObject({
      status: 3,
      err: expect.stringContaining('it is a scan'),
    });
    expect(calque('compare', sheet('01_cairo_plan_100.pdf')).status).toBe(2);
    expect(
      calque('compare', sheet('01_cairo_plan_100.pdf'), sheet('09_tikz_set_3_pages.pdf'), '--new-page', '9')
        .status,
    ).toBe(3);
  });
});
