import {
  DndContext,
  type DndContextProps,
  KeyboardSensor,
  PointerSensor,
  closestCenter,
  useSensor,
  useSensors,
  type DragEndEvent,
  type DragOverEvent,
} from '@dnd-kit/core';
import { restrictToParentElement, restrictToVerticalAxis } from '@dnd-kit/modifiers';
import { SortableContext, sortableKeyboardCoordinates, verticalListSortingStrategy } from '@dnd-kit/sortable';
import {
  FactsCache,
  dependencyWords,
  moveInList,
  orderLists,
  placementKey,
  worseOrder,
  type Placement,
  type PlannedPart,
} from '@pragmatica/core';
import { TriangleAlert } from 'lucide-react';
import { useState } from 'react';
import { useChangeOrder } from '../../api/mutations';
import { useToast } from '../../ui/toast';
import type { StripContext } from './strip-context';
import { PartCard } from './part-card';
import { STRIP } from '../../texts/strip';
import { say } from '../../texts/say';

interface PlacementSlotProps {
  placement: Placement;
  title: string;
  parts: readonly PlannedPart[];
  context: StripContext;
}

/** Code is read once, however often a part is dragged over another. */
const memory = new FactsCache();

/** How far a pointer moves before it drags, in pixels, so that a click stays a click. */
const DRAG_DISTANCE = 4;

/** One placement with its parts; dragging one changes the order in the draft. */
export function PlacementSlot({ placement, title, parts, context }: PlacementSlotProps) {
  const change = useChangeOrder(context.site);
  const toast = useToast();
  const [warnings, setWarnings] = useState<readonly string[]>([]);
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: DRAG_DISTANCE } }),
    useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
  );
  const keys = parts.map((part) => part.key);

  /** The order of the whole placement, also of parts that this page does not get, if this were dropped here. */
  function orderAfter({ active, over }: DragEndEvent | DragOverEvent): string[] | undefined {
    const all = orderLists(context.snapshot).find(
      (list) => placementKey(list.placement) === placementKey(placement),
    )?.parts;
    if (!over || active.id === over.id || !all) return undefined;
    const reference = String(over.id);
    const isDown = keys.indexOf(String(active.id)) < keys.indexOf(reference);
    return moveInList(all, String(active.id), isDown ? { after: reference } : { before: reference });
  }

  function warn(event: DragOverEvent): void {
    const order = orderAfter(event);
    const worse = order ? worseOrder(context.snapshot, { placement, parts: order }, { memory }) : [];
    setWarnings(worse.map((dependency) => `${dependencyWords(dependency)}.`));
  }

  function move(event: DragEndEvent): void {
    setWarnings([]);
    const moved = orderAfter(event);
    if (!moved) return;
    change.run({ etag: context.etag, placement, parts: moved }, () =>
      toast({
        tone: 'done',
        title: STRIP.orderChangedDraft,
        text: STRIP.visitorsGetWhen,
      }),
    );
  }

  return (
    <section aria-label={title}>
      <h3 className="mb-1.5 flex items-center gap-2 text-xs font-semibold text-muted">
        {title}
        <span className="h-px flex-1 bg-line" aria-hidden />
      </h3>
      {parts.length === 0 && (
        <p className="rounded-md border border-dashed border-line px-3 py-1.5 text-[13px] text-muted">
          {STRIP.nothingHere}
        </p>
      )}
      <DndContext
        sensors={sensors}
        accessibility={SPOKEN}
        collisionDetection={closestCenter}
        modifiers={[restrictToVerticalAxis, restrictToParentElement]}
        onDragOver={warn}
        onDragCancel={() => setWarnings([])}
        onDragEnd={move}
      >
        <SortableContext items={keys} strategy={verticalListSortingStrategy}>
          <ol className="space-y-2">
            {parts.map((part) => (
              <PartCard
                key={part.key}
                part={part}
                context={context}
                isDraggable={context.isEditable && parts.length > 1}
              />
            ))}
          </ol>
          <div aria-live="assertive">
            {warnings.map((warning) => (
              <p key={warning} className="mt-2 flex gap-1.5 text-[13px] text-danger">
                <TriangleAlert className="mt-0.5 size-4 shrink-0" aria-hidden />{' '}
                {say(STRIP.wrongHereWarning, { warning })}
              </p>
            ))}
          </div>
        </SortableContext>
      </DndContext>
    </section>
  );
}

/** What is read aloud while a part is moved by the keyboard. */
const SPOKEN: DndContextProps['accessibility'] = {
  screenReaderInstructions: { draggable: STRIP.howToMove },
  announcements: {
    onDragStart: () => STRIP.pickedUp,
    onDragOver: ({ over }) => (over ? say(STRIP.isOver, { place: placeOf(over.data.current) }) : undefined),
    onDragEnd: ({ over }) =>
      over ? say(STRIP.putDown, { place: placeOf(over.data.current) }) : STRIP.putBack,
    onDragCancel: () => STRIP.putBack,
  },
};

/** The position in the list, from one. */
function placeOf(data: { readonly sortable?: { readonly index: number } } | undefined): number {
  return (data?.sortable?.index ?? 0) + 1;
}
