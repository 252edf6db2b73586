import type { BakeFormat, BakeFormatId, BakeSettings } from '@warper/formats';
import { BAKE_FORMATS, BAKE_FORMAT_IDS } from '@warper/formats';
import { Check, Choice, Group } from '../../ui/controls';
import { NumberField } from '../../ui/NumberField';

interface Props {
  readonly settings: BakeSettings;
  readonly set: (values: Partial<BakeSettings>) => void;
  /** Cameras of the scene. */
  readonly cameras: number;
}

const WHAT: Readonly<Record<BakeFormatId, string>> = {
  glb: 'GLB',
  gltf: 'glTF, one file of text',
  vrma: 'VRM animation, for humanoids',
  usda: 'USD, as text',
  usdz: 'USDZ',
  bvh: 'BVH, bones only',
  csv: 'CSV, a table of joints',
};

type Unit = 'own' | '1' | '100' | '39.37007874015748';

/** What the files are. */
export function FileGroup({ settings, set, cameras }: Props) {
  const format: BakeFormat = BAKE_FORMATS[settings.format];
  return (
    <Group title="File">
      <Choice
        label="Format"
        value={settings.format}
        options={BAKE_FORMAT_IDS.map((id) => [id, WHAT[id]] as const)}
        onChange={(id) => set({ format: id })}
      />
      {format.holdsBody && (
        <Check label="With the body" checked={settings.withBody} onChange={(withBody) => set({ withBody })} />
      )}
      {format.holdsCameras && cameras > 0 && (
        <Check
          label={cameras === 1 ? 'With the camera' : `With ${cameras} cameras`}
          checked={settings.withCameras}
          onChange={(withCameras) => set({ withCameras })}
        />
      )}
      {settings.format !== 'vrma' && (
        <Choice
          label="Joint names"
          value={settings.jointNames}
          options={[
            ['own', "The character's own"],
            ['roles', 'By their roles'],
          ]}
          onChange={(jointNames) => set({ jointNames })}
        />
      )}
      {format.hasUnits && <UnitsChoice settings={settings} set={set} />}
      {format.hasUnits && (
        <Choice
          label="Up axis"
          value={settings.upAxis}
          options={[
            ['y', '+Y'],
            ['z', '+Z'],
          ]}
          onChange={(upAxis) => set({ upAxis })}
        />
      )}
      {format.holdsKeys ? (
        <KeyFields settings={settings} set={set} />
      ) : (
        <p className="text-note text-soft">One key a frame.</p>
      )}
    </Group>
  );
}

function UnitsChoice({ settings, set }: Omit<Props, 'cameras'>) {
  return (
    <Choice<Unit>
      label="Units"
      value={settings.unitsPerMetre === null ? 'own' : (String(settings.unitsPerMetre) as Unit)}
      options={[
        ['own', settings.format === 'bvh' ? "The character's own" : 'Metres'],
        ...(settings.format === 'bvh' ? [['1', 'Metres'] as const] : []),
        ['100', 'Centimetres'],
        ['39.37007874015748', 'Inches'],
      ]}
      onChange={(unit) => set({ unitsPerMetre: unit === 'own' ? null : Number(unit) })}
    />
  );
}

function KeyFields({ settings, set }: Omit<Props, 'cameras'>) {
  return (
    <>
      <Choice
        label="Keys"
        value={settings.keys}
        options={[
          ['every', 'Every frame'],
          ['reduced', 'Reduced'],
        ]}
        onChange={(keys) => set({ keys })}
      />
      {settings.keys === 'reduced' && (
        <>
          <NumberField
            label="Error"
            unit="mm"
            digits={2}
            step={0.1}
            least={0.01}
            most={100}
            value={settings.errorMillimetres}
            onChange={(errorMillimetres) => set({ errorMillimetres })}
          />
          <Choice
            label="Between keys"
            value={settings.interpolation}
            options={[
              ['linear', 'Linear'],
              ['cubic', 'Cubic'],
            ]}
            onChange={(interpolation) => set({ interpolation })}
          />
          <p className="text-note text-soft">Planted feet stay within 0.2 mm.</p>
        </>
      )}
    </>
  );
}
