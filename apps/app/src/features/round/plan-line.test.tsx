import { DndContext } from '@dnd-kit/core'
import { cleanup, fireEvent, render, screen } from '@testing-library/react'
import { roundVisit } from '../../testing/round'
import { PlanLine } from './plan-line'
import type { Line } from './plan-view'

afterEach(cleanup)

/** One visit from 10:00 to 12:00; the level of 180 minutes after setting out at 08:00 stands at 11:00, on its middle. */
const LINE: Line = {
  technician: 't',
  name: 'Tam Orrin',
  day: 0,
  iso: '2026-11-30',
  loadMin: 240,
  levelMin: 180,
  fromMin: 480,
  toMin: 960,
  homeMin: 840,
  stops: [{ visit: roundVisit('x', 'a'), departMin: 480, driveMin: 120, sailsMin: null, startMin: 600, leaveMin: 720 }],
  ferries: [],
  drivingMin: 240,
  workMin: 120,
}

test('a visit under the mark of the level is tapped through it', () => {
  const choose = jest.fn()
  render(
    <DndContext>
      <PlanLine
        line={LINE}
        scale={{ fromMin: 480, toMin: 960, width: 480 }}
        carriedId={null}
        target={false}
        possible
        chosenId={null}
        marks={new Map()}
        moved={new Set()}
        onChoose={choose}
        everybody={false}
      />
    </DndContext>,
  )
  const visit = screen.getByRole('button', { name: 'Site x, 10:00 to 12:00' })
  const level = screen.getByTestId('level')
  expect(Number.parseFloat(level.style.left)).toBe(Number.parseFloat(visit.style.left) + 60)
  expect(getComputedStyle(level).pointerEvents).toBe('none')
  fireEvent.click(visit)
  expect(choose).toHaveBeenCalledWith('x')
})
