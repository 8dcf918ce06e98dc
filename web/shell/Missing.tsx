import { Link } from 'react-router';

export function Missing({ what }: { what: string }) {
  return (
    <div className="empty">
      <strong>This {what} does not exist.</strong>
      It may have been removed, or the address is mistyped. <Link to="/">Go to the list of shoots.</Link>
    </div>
  );
}
