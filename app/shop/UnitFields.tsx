import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
import { shopUnitChoices, type ShopUnits } from '../../core/units';

const labels = { distance: 'Distances', temperature: 'Temperatures', clock: 'Clock', dates: 'Dates' } as const;

/** How the shop writes distances, temperatures, times and dates; names of the fields as the server reads them. */
export function UnitFields({ units, disabled = false }: { units: ShopUnits; disabled?: boolean }) {
  return Object.entries(labels).map(([name, label]) => (
    <TextField
      key={name}
      name={`units.${name}`}
      label={label}
      select
      defaultValue={units[name as keyof ShopUnits]}
      disabled={disabled}
      sx={{ width: 240 }}
    >
      {Object.entries(shopUnitChoices[name as keyof ShopUnits]).map(([id, say]) => (
        <MenuItem key={id} value={id}>
          {say}
        </MenuItem>
      ))}
    </TextField>
  ));
}
