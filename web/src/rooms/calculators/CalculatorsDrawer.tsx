import { Drawer, Tabs } from '@mantine/core';
import { DilutionCalculator } from './DilutionCalculator';
import { ExtractionCalculator } from './ExtractionCalculator';
import { SolveCalculator } from './SolveCalculator';
import { TellApartCalculator } from './TellApartCalculator';

/** Calculators within reach of every room; they store nothing. */
export default function CalculatorsDrawer({ onClose }: { onClose: () => void }) {
  return (
    <Drawer
      opened
      onClose={onClose}
      position="left"
      title="Calculators"
      size={420}
      closeButtonProps={{ 'aria-label': 'Close' }}
    >
      <Tabs defaultValue="extraction" keepMounted>
        <Tabs.List grow mb="md">
          <Tabs.Tab value="extraction">Extraction</Tabs.Tab>
          <Tabs.Tab value="dilution">Dilution</Tabs.Tab>
          <Tabs.Tab value="solve">Solve</Tabs.Tab>
          <Tabs.Tab value="tell">Tell apart</Tabs.Tab>
        </Tabs.List>
        <Tabs.Panel value="extraction">
          <ExtractionCalculator />
        </Tabs.Panel>
        <Tabs.Panel value="dilution">
          <DilutionCalculator />
        </Tabs.Panel>
        <Tabs.Panel value="solve">
          <SolveCalculator />
        </Tabs.Panel>
        <Tabs.Panel value="tell">
          <TellApartCalculator />
        </Tabs.Panel>
      </Tabs>
    </Drawer>
  );
}
