import { useEffect } from 'react';
import { useNavigate } from 'react-router';
import { toast } from 'sonner';
import { bonesPath } from '../../parts/clipPath';
import { commit } from '../../store/edits';
import { sessionActions } from '../../store/sessionSlice';
import { useAppDispatch, useAppSelector } from '../../store/store';

/** Says why an edit could not be carried out; for a clip whose bones do not match, leads to where they are mapped. */
export function useRefusal(): void {
  const dispatch = useAppDispatch();
  const navigate = useNavigate();
  const refused = useAppSelector((s) => s.session.refused);
  useEffect(() => {
    if (!refused) return;
    const { message, hint, clip, anyway } = refused;
    const action = anyway
      ? { label: 'Use it all the same', onClick: () => void dispatch(commit(anyway)) }
      : clip && { label: 'Map its bones', onClick: () => void navigate(bonesPath(clip)) };
    toast.error(message, { description: hint, action });
    dispatch(sessionActions.refused(null));
  }, [refused, dispatch, navigate]);
}
