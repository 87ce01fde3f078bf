import Button from '@mui/material/Button';
import { Form } from 'react-router';
import type { useAct } from '../ui/useAct';

/** Takes a document of the shop out of what is offered, or back in. */
export function Retire({ retired, act }: { retired: boolean; act: Pick<ReturnType<typeof useAct>, 'send' | 'busy'> }) {
  return (
    <Form method="post" onSubmit={act.send(retired ? 'restore' : 'retire')}>
      <Button type="submit" variant="outlined" color={retired ? 'inherit' : 'error'} loading={act.busy}>
        {retired ? 'Offer again' : 'Retire'}
      </Button>
    </Form>
  );
}
