import { Menu, UnstyledButton } from '@mantine/core';
import { IconDots } from '@tabler/icons-react';
import { Link } from 'react-router';
import { MORE } from './rooms';
import classes from './Shell.module.css';
import { useOtherScheme } from './useOtherScheme';

/** What a phone's rail has no room for. */
export default function More({ onCalculators }: { onCalculators: () => void }) {
  const { next, turn } = useOtherScheme();
  return (
    <Menu position="top-end">
      <Menu.Target>
        <UnstyledButton className={`${classes.room} ${classes.narrow}`}>
          <IconDots size={20} stroke={1.6} aria-hidden />
          More
        </UnstyledButton>
      </Menu.Target>
      <Menu.Dropdown>
        {MORE.map((p) => (
          <Menu.Item key={p.to} component={Link} to={p.to}>
            {p.label}
          </Menu.Item>
        ))}
        <Menu.Item onClick={onCalculators}>Calculators</Menu.Item>
        <Menu.Item onClick={turn}>{next === 'dark' ? 'Dark screen' : 'Light screen'}</Menu.Item>
      </Menu.Dropdown>
    </Menu>
  );
}
