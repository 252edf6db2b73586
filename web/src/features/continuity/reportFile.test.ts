import { describe, expect, it } from '@jest/globals';
import type { ContinuityItem } from '@warper/core';
import { emptyScene } from '@warper/core';
import { reportCsv, reportJson } from './reportFile';

const item: ContinuityItem = {
  id: 'seam:b',
  kind: 'seam',
  character: 'c',
  characterName: 'Keeper, the "old" one',
  segment: 'b',
  name: '=Idle → Walk',
  frame: 52,
  end: 72,
  measure: 'slideCm',
  value: 2.123456,
  grade: 'bad',
  ratio: 4.25,
  cause: 'A planted foot is moved',
  hint: 'Choose the join.',
};

describe('the continuity list as a file', () => {
  it('is a table that spreadsheets read and nothing in it is taken for a formula', () => {
    const [head, row, end] = reportCsv([item], { 'seam:b': 'out of sight' }).split('\r\n');
    expect(head).toBe('grade,kind,characterName,name,frame,end,measure,value,ratio,cause,hint,ignored');
    expect(row).toBe(
      `bad,seam,"Keeper, the ""old"" one",'=Idle → Walk,52,72,slideCm,2.1235,4.25,A planted foot is moved,Choose the join.,out of sight`,
    );
    expect(end).toBe('');
  });

  it('is JSON with what it was judged by', () => {
    const scene = { ...emptyScene('Evening'), ignored: { 'seam:b': 'out of sight' } };
    expect(JSON.parse(reportJson([item], scene))).toMatchObject({
      scene: 'Evening',
      shotSize: 'medium',
      items: [{ id: 'seam:b', ignored: 'out of sight' }],
    });
  });
});
