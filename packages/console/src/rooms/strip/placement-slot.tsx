import {
  DndContext,
  KeyboardSensor,
  PointerSensor,
  closestCenter,
  useSensor,
  useSensors,
  type DragEndEvent,
} from '@dnd-kit/core';
import { restrictToParentElement, restrictToVerticalAxis } from '@dnd-kit/modifiers';
import { SortableContext, sortableKeyboardCoordinates, verticalListSortingStrategy } from '@dnd-kit/sortable';
import { moveInList, orderLists, placementKey, type Placement, type PlannedPart } from '@pragmatica/core';
import { useChangeOrder } from '../../api/changes';
import { useToast } from '../../ui/toast';
import type { StripContext } from './page-strip';
import { PartCard } from './part-card';

interface PlacementSlotProps {
  placement: Placement;
  title: string;
  parts: readonly PlannedPart[];
  context: StripContext;
}

/** How far a pointer moves before it drags, in pixels, so that a click stays a click. */
const DRAG_DISTANCE = 4;

/** One placement with its parts; dragging one changes the order in the draft. */
export function PlacementSlot({ placement, title, parts, context }: PlacementSlotProps) {
  const change = useChangeOrder(context.site);
  const toast = useToast();
  const sensors = useSensors(
    useSensor(PointerSensor, { activationConstraint: { distance: DRAG_DISTANCE } }),
    useSensor(KeyboardSensor, { coordinateGetter: sortableKeyboardCoordinates }),
  );
  const keys = parts.map((part) => part.key);

  function move({ active, over }: DragEndEvent): void {
    const all = orderLists(context.snapshot).find(
      (list) => placementKey(list.placement) === placementKey(placement),
    )?.parts;
    if (!over || active.id === over.id || !all) return;
    const reference = String(over.id);
    const isDown = keys.indexOf(String(active.id)) < keys.indexOf(reference);
    const moved = moveInList(all, String(active.id), isDown ? { after: reference } : { before: reference });
    if (!moved) return;
    change.run({ etag: context.etag, placement, parts: moved }, () =>
      toast({
        tone: 'done',
        title: 'Order changed in the draft',
        text: 'Visitors get it when you publish.',
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
          nothing here
        </p>
      )}
      <DndContext
        sensors={sensors}
        collisionDetection={closestCenter}
        modifiers={[restrictToVerticalAxis, restrictToParentElement]}
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
        </SortableContext>
      </DndContext>
    </section>
  );
}
