import { DatePicker, LocalizationProvider } from '@mui/x-date-pickers';
import { AdapterDayjs } from '@mui/x-date-pickers/AdapterDayjs';
import dayjs from 'dayjs';
import { dayFormat } from '../data/format';

interface Props {
  label: string;
  /** `YYYY-MM-DD` */
  value: string;
  onChange: (value: string) => void;
  /** takes the day away again; not given: there is always one */
  onClear?: () => void;
}

/** A day, typed or picked, in the same form in which days are read everywhere. */
export default function DateField({ label, value, onChange, onClear }: Props) {
  return (
    <LocalizationProvider dateAdapter={AdapterDayjs}>
      <DatePicker
        label={label}
        format={dayFormat()}
        value={value === '' ? null : dayjs(value)}
        onChange={(day) => day?.isValid() && onChange(day.format('YYYY-MM-DD'))}
        slotProps={{
          textField: { size: 'small', fullWidth: true },
          field: { clearable: onClear !== undefined, onClear },
        }}
      />
    </LocalizationProvider>
  );
}
