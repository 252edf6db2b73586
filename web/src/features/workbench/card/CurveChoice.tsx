import type { Curve } from '@warper/core';
import { Choice } from '../../../ui/controls';
import { PointList } from '../../../ui/PointList';
import { nextPoint, risingPoints } from './TimeGroup';

/** How the weight goes over within a crossfade: by name, or through own points. */
export function CurveChoice({ curve, onChange }: { curve: Curve; onChange: (curve: Curve) => void }) {
  const own = typeof curve === 'string' ? null : curve;
  return (
    <>
      <Choice
        label="Curve"
        value={typeof curve === 'string' ? curve : 'own'}
        options={[
          ['smooth', 'smooth'],
          ['linear', 'straight'],
          ['own', 'Custom'],
        ]}
        onChange={(name) => onChange(name === 'own' ? [[0.5, 0.5]] : name)}
      />
      {own && (
        <PointList
          title="curve point"
          points={own}
          columns={[
            { label: 'Share of the overlap', unit: '%', digits: 1, times: 100, least: 1, most: 99 },
            { label: 'Weight', unit: '%', digits: 1, times: 100, least: 0, most: 100 },
          ]}
          onChange={(points) => onChange(risingPoints(points) ?? 'smooth')}
          next={() => nextPoint(own)}
          add="Add point"
        />
      )}
    </>
  );
}
