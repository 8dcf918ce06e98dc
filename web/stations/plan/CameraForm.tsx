import { Button } from '@mui/material';
import { cameraModels, type Plan } from '../../../core/plan/index.ts';
import { FromLibrary, Numbers, PlaceFields, WordChoice, type ThingProps } from './fields.tsx';
import { thingFacts } from './things.ts';

/** The numbers of the camera. */
export function CameraForm({ plan, units, library, onChange, onLibrary }: ThingProps) {
  const { camera } = plan;
  const set = (change: Partial<Plan['camera']>, label: string): void =>
    onChange({ ...plan, camera: { ...camera, ...change } }, label);
  const models = [...cameraModels, ...library.flatMap(({ item }) => (item.kind === 'camera' ? [item.entry] : []))];
  return (
    <>
      <FromLibrary models={models} onTake={(model) => set(model, 'camera')} />
      <Numbers
        facts={thingFacts.camera}
        of={camera}
        units={units}
        label="the camera"
        only={['focal', 'aperture', 'shutter', 'iso', 'tilt', 'pan']}
        onChange={(value, label) => onChange({ ...plan, camera: value }, label)}
      />
      <PlaceFields
        title="Lens at"
        place={camera.position}
        units={units}
        onChange={(position) => set({ position: { ...position, z: Math.max(0.3, position.z) } }, 'place of the camera')}
      />
      <WordChoice
        label="Writes"
        value={camera.file}
        options={{ jpeg: 'JPEG', '16-bit': '16 bit', raw: 'Raw' }}
        onChange={(file) => set({ file: file as Plan['camera']['file'] }, 'file of the camera')}
      />
      <Numbers
        facts={thingFacts.camera}
        of={camera}
        units={units}
        label="the camera"
        only={['sensorWidth', 'sensorHeight', 'pixelsAcross', 'pixelsDown']}
        onChange={(value, label) =>
          onChange(
            {
              ...plan,
              camera: {
                ...value,
                pixelsAcross: Math.round(value.pixelsAcross),
                pixelsDown: Math.round(value.pixelsDown),
              },
            },
            label,
          )
        }
      />
      <Button variant="text" onClick={onLibrary}>
        Keep in the library
      </Button>
    </>
  );
}
