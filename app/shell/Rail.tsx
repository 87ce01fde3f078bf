import CallOutlined from '@mui/icons-material/CallOutlined';
import HandymanOutlined from '@mui/icons-material/HandymanOutlined';
import HomeOutlined from '@mui/icons-material/HomeOutlined';
import MenuBookOutlined from '@mui/icons-material/MenuBookOutlined';
import ReceiptLongOutlined from '@mui/icons-material/ReceiptLongOutlined';
import ScheduleOutlined from '@mui/icons-material/ScheduleOutlined';
import TuneOutlined from '@mui/icons-material/TuneOutlined';
import { NavLink, useMatch, useNavigate } from 'react-router';
import { useKeys } from '../ui/keys';
import { Mark } from '../ui/Mark';
import styles from './Rail.module.css';

const places = [
  { to: '/', name: 'Floor', key: 'f', Icon: TuneOutlined },
  { to: '/cases', name: 'Cases', key: 'c', Icon: ReceiptLongOutlined },
  { to: '/calls', name: 'Calls', key: 't', Icon: CallOutlined },
  { to: '/bench', name: 'Bench', key: 'b', Icon: HandymanOutlined },
  { to: '/library', name: 'Library', key: 'l', Icon: MenuBookOutlined },
  { to: '/practice', name: 'Practice', key: 'p', Icon: ScheduleOutlined },
  { to: '/shop', name: 'Shop', key: 's', Icon: HomeOutlined },
];

/** The places. At the left on a wide screen, at the bottom on a phone, and out of the way there in a run. */
export function Rail() {
  const navigate = useNavigate();
  const inRun = useMatch('/cases/:caseId/runs/:runId') !== null;
  useKeys([
    ...places.map(({ to, name, key }) => ({ keys: `g ${key}`, shown: `g ${key}`, say: `go to ${name}`, act: () => void navigate(to) })),
    { keys: 'n', shown: 'n', say: 'new case', act: () => void navigate('/cases/new') },
  ]);
  return (
    <nav className={styles.rail} data-run={inRun || undefined} aria-label="Places">
      <span className={styles.mark}>
        <Mark />
      </span>
      {places.map(({ to, name, Icon }) => (
        <NavLink key={to} to={to} end={to === '/'} className={styles.place!}>
          <Icon fontSize="small" aria-hidden="true" />
          {name}
        </NavLink>
      ))}
    </nav>
  );
}
