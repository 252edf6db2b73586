import type { Curve } from '@warper/core';
import { CurveField } from '../../../ui/CurveField';
import { Choice } from '../../../ui/controls';
import { PointList } from '../../../ui/PointList';
import { nextPoint, risingPoints } from './TimeGroup';

interface Props {
  readonly curve: Curve;
  readonly onPreview: (curve: Curve | null) => void;
  readonly onChange: (curve: Curve) => void;
}

/** How the weight goes over within a crossfade: by name, or through own points. */
export function CurveChoice({ curve, onPreview, onChange }: Props) {
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
      <CurveField
        label="Weight of the incoming motion"
        curve={curve}
        across="of the overlap"
        up="weight"
        onPreview={onPreview}
        onChange={(points) => onChange(points ?? 'smooth')}
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
