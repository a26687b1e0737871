import { useEffect } from 'react';
import { useLocation, useNavigate } from 'react-router';

/** A place that belongs elsewhere. Whoever has gone on in the moment between what is drawn and this is not called back. */
export function Redirect({ to }: { to: string }) {
  const { pathname } = useLocation();
  const navigate = useNavigate();
  useEffect(() => {
    if (window.location.pathname === pathname) void navigate(to, { replace: true });
  }, [navigate, pathname, to]);
  return null;
}
