import { describe, expect, it } from '@jest/globals';
import { limitText } from './NumberField';

const field = { label: 'Overlap', value: 52, unit: 'f', limit: 'Walk has no more' };

describe('a value that was limited', () => {
  it('says to what, and why', () => {
    expect(limitText(field, 80)).toBe('Overlap limited to 52 frames: Walk has no more');
    expect(limitText({ label: 'Size', value: 100, unit: '×' }, 400)).toBe('Size limited to 100 ×');
  });

  it('says nothing where it is what was asked for, but for rounding', () => {
    expect(limitText(field, 52)).toBe('');
    expect(limitText(field, 51.6)).toBe('');
    expect(limitText({ label: 'Turn', value: 12.3, digits: 1 }, 12.32)).toBe('');
  });
});
