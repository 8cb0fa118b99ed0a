import type { RoundSet } from '@evenround/contract/rounds'
import { say } from '@evenround/core/words'
import { Pressable, View } from 'react-native'
import { duration, timeOfDay } from '../../ui/format'
import { T } from '../../ui/text'
import type { Line } from './plan-view'
import { SoundMap } from './sound-map'
import { weekdayWord } from './words'

/** One day in order: leave, drive, ferry, begin, work; what is left of it; and where it goes. */
export function DayTour({ set, line, onChoose }: { set: RoundSet; line: Line; onChoose: (visitId: string) => void }) {
  const slack = line.homeMin === null ? null : line.toMin - line.homeMin
  return (
    <View className="gap-2">
      <T kind="heading" level={2}>
        {`${weekdayWord(line.iso)} · ${line.name.split(' ')[0]}`}
      </T>
      <T>
        {line.stops.length === 0
          ? say`Nothing is planned for this day.`
          : say`${duration(line.drivingMin)} driving${set.travel.estimated ? say`, estimated` : ''} · ${duration(line.workMin)} work · home ${timeOfDay(line.homeMin ?? 0)} · ${
              slack !== null && slack >= 0 ? say`${duration(slack)} slack` : say`${duration(-(slack ?? 0))} over`
            }`}
      </T>
      {line.stops.map(({ visit, departMin, driveMin, sailsMin, startMin, leaveMin }) => (
        <View key={visit.id}>
          <T kind="quiet" className="pl-[68px]">
            {driveMin === 0
              ? say`next door`
              : say`leave ${timeOfDay(departMin)}, ${duration(driveMin)}${set.travel.estimated ? say`, estimated` : ''}${sailsMin === null ? '' : say`, ferry ${timeOfDay(sailsMin)}`}`}
          </T>
          <Pressable
            role="button"
            onPress={() => onChoose(visit.id)}
            className="min-h-[48px] flex-row items-center gap-3 border-b-2 border-line"
          >
            <T kind="strong" className="w-14">
              {timeOfDay(startMin)}
            </T>
            <View className="flex-1">
              <T kind="strong" numberOfLines={1}>
                {visit.siteName}
              </T>
              <T kind="small">{`${visit.village} · ${duration(leaveMin - startMin)}${visit.promise ? say` · promised ${timeOfDay(visit.promise[0])}–${timeOfDay(visit.promise[1])}` : ''}`}</T>
            </View>
          </Pressable>
        </View>
      ))}
      <SoundMap set={set} line={line} />
    </View>
  )
}
