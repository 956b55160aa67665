import { Menu, UnstyledButton } from '@mantine/core';
import { IconCheck, IconUser } from '@tabler/icons-react';
import { useQuery } from '@tanstack/react-query';
import { Link } from 'react-router';
import { peopleQuery } from './queries';
import { useWho } from './useWho';

/** Whose hands these are: the name goes with every change made on this device. */
export function PersonPicker({ className }: { className: string }) {
  const { data: people = [] } = useQuery(peopleQuery);
  const { who, choose } = useWho();
  const me = people.find((p) => p.id === who);
  return (
    <Menu position="right-end" withArrow>
      <Menu.Target>
        <UnstyledButton className={className} aria-label={me ? `You are ${me.name}` : 'Say who you are'}>
          <IconUser size={20} stroke={1.6} aria-hidden />
          {me?.name ?? 'You'}
        </UnstyledButton>
      </Menu.Target>
      <Menu.Dropdown>
        <Menu.Label>Changes made on this device are by</Menu.Label>
        {people.map((p) => (
          <Menu.Item
            key={p.id}
            leftSection={p.id === who ? <IconCheck size={14} /> : <span style={{ width: 14 }} />}
            onClick={() => choose(p.id)}
          >
            {p.name}
          </Menu.Item>
        ))}
        <Menu.Item
          leftSection={me ? <span style={{ width: 14 }} /> : <IconCheck size={14} />}
          onClick={() => choose('')}
        >
          No name yet
        </Menu.Item>
        <Menu.Divider />
        <Menu.Item component={Link} to="/people">
          People and phones
        </Menu.Item>
      </Menu.Dropdown>
    </Menu>
  );
}
