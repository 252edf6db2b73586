import { Moon, Sun } from 'lucide-react';
import { sessionActions } from '../store/sessionSlice';
import { useAppDispatch, useAppSelector } from '../store/store';
import { Button } from '../ui/controls';

/** Switches between day and night. */
export function ThemeButton() {
  const dispatch = useAppDispatch();
  const theme = useAppSelector((s) => s.session.theme);
  const next = theme === 'day' ? 'night' : 'day';
  return (
    <Button
      look="quiet"
      aria-label={`Show in ${next} colours`}
      title={`Show in ${next} colours`}
      onClick={() => dispatch(sessionActions.themed(next))}
    >
      {theme === 'day' ? <Moon size={16} aria-hidden /> : <Sun size={16} aria-hidden />}
    </Button>
  );
}
