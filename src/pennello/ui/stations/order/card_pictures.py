"""The two pictures on a card of the run: what is on the brush, and where it goes."""

from __future__ import annotations

from collections.abc import Mapping
from dataclasses import replace

from PySide6.QtCore import QPointF, QRectF, Qt
from PySide6.QtGui import QColor, QFont, QPainter, QPaintEvent, QPen, QTransform
from PySide6.QtWidgets import QSizePolicy, QWidget

from pennello.chart.chart import Chart
from pennello.design.edits import loaded_itself
from pennello.design.marks import Glitter, Mark, paths_of
from pennello.design.on_chart import chart_of
from pennello.design.plan import Plan, skin_bytes
from pennello.design.surface import draw_contours, draw_features, draw_mark, draw_skin
from pennello.design.touch import middle, swept_by
from pennello.load.look import cake_colours, edge_colours
from pennello.order.arrange import Arranged
from pennello.order.job import PaintJob
from pennello.order.jobs import SKIN, mark_of
from pennello.order.run import Run
from pennello.order.steps import Step
from pennello.phrases import phrase
from pennello.session.chart_scene import sides_of
from pennello.session.order_pictures import Picture
from pennello.ui.theme.tokens import theme
from pennello.ui.widgets.chart_drawing import ChartView, ink_of, surface_of, view_of
from pennello.ui.widgets.paint import strip_image, to_image
from pennello.ui.widgets.painting import painted
from pennello.ui.widgets.qt_surface import QtSurface, outline_of

_CLOSEST_MM = 70.0
"""How much of the skin is shown at least, mm: about a hand's breadth."""

_MOST_NUMBERS = 24


def _way_of(laid: Plan | None, name: str) -> tuple[tuple[float, float], ...]:
    return () if laid is None else laid.stroke(name).stroke.path.points_mm


def _middle_of(laid: Plan, name: str) -> tuple[float, float]:
    stroke = laid.stroke(name)
    shape = swept_by(stroke.stroke, laid.brush(stroke.brush), laid.axis(name))
    return _way_of(laid, name)[0] if shape.is_empty else middle(shape)


class CardPicture(QWidget):
    """A picture on the card; empty until the order is there."""

    def __init__(self, name: str) -> None:
        super().__init__()
        self.arranged: Arranged | None = None
        self._job = ""
        self.setAccessibleName(name)
        self.setMinimumHeight(120)
        self.setSizePolicy(QSizePolicy.Policy.Expanding, QSizePolicy.Policy.Expanding)

    @property
    def job(self) -> PaintJob | None:
        """The job of the step on the card."""
        if self.arranged is None:
            return None
        return next((one for one in self.arranged.jobs if one.id == self._job), None)

    @property
    def mark(self) -> Mark | None:
        """The glitter, stencil or gem of the step on the card."""
        job = self.job
        if self.arranged is None or job is None:
            return None
        return mark_of(self.arranged.design.work.plan, job)

    def _begin(self, painter: QPainter) -> None:
        painter.setRenderHint(QPainter.RenderHint.Antialiasing)
        painter.setRenderHint(QPainter.RenderHint.SmoothPixmapTransform)
        painter.setPen(QPen(QColor(theme().line), 1))
        painter.setBrush(QColor(theme().mat))
        painter.drawRoundedRect(QRectF(self.rect()).adjusted(1, 1, -1, -1), 10, 10)


class LoadPicture(CardPicture):
    """The cake with the brush on it, and the loaded edge with its outside named; or the glitter."""

    def __init__(self) -> None:
        super().__init__(phrase("What is on the brush"))

    def show_step(self, step: Step | None) -> None:
        """Show the load of a step's job."""
        self._job = step.job if step is not None else ""
        self.setVisible(bool(self._job))
        self.update()

    @painted
    def paintEvent(self, painter: QPainter, event: QPaintEvent) -> None:
        """Draw it."""
        self._begin(painter)
        job = self.job
        area = QRectF(self.rect()).adjusted(24, 20, -24, -20)
        if self.mark is not None:
            self._draw_mark(painter, self.mark, area)
        elif self.arranged is not None and job is not None and job.load:
            self._draw_cake(painter, self.arranged, job, area)
            self._draw_edge(painter, self.arranged, job, area)

    def _draw_cake(self, painter: QPainter, arranged: Arranged, job: PaintJob, area: QRectF) -> None:
        plan = arranged.design.work.plan
        stroke = plan.stroke(job.load)
        pickup = next((one for one in reversed(stroke.recipe.pickups) if one.cake), None)
        if pickup is None:
            return
        cake, wide = plan.cake(pickup.cake), plan.edge(job.load).width_mm
        scale = min(area.width() / (cake.width_mm + 4), 14.0)
        box = QRectF(0, area.top(), cake.width_mm * scale, area.height() * 0.42)
        box.moveLeft(area.center().x() - box.width() / 2)
        painter.drawImage(box, strip_image(cake_colours(cake, plan.paints_by_id, 240)))
        brush = QRectF(box.left() + pickup.offset_mm * scale, box.center().y() - 14, wide * scale, 28)
        painter.setBrush(QColor(255, 255, 255, 70))
        painter.setPen(QPen(QColor(theme().ink), 3))
        painter.drawRoundedRect(brush, 5, 5)

    def _draw_edge(self, painter: QPainter, arranged: Arranged, job: PaintJob, area: QRectF) -> None:
        plan = arranged.design.work.plan
        stroke = plan.stroke(job.load)
        low = QRectF(area.left(), area.top() + area.height() * 0.62, area.width(), area.height() * 0.2)
        self._write(painter, QRectF(area.left(), low.top() - 34, area.width(), 28), job.tool)
        colours = edge_colours(plan.edge(job.load), plan.paints_by_id)
        painter.drawImage(low, strip_image(colours))
        painter.setPen(QPen(QColor(theme().line), 1))  # a white load shows on a white card
        painter.setBrush(Qt.BrushStyle.NoBrush)
        painter.drawRect(low)
        for side, align in (("A", Qt.AlignmentFlag.AlignLeft), ("B", Qt.AlignmentFlag.AlignRight)):
            words = phrase("{side}, outside", side=side) if side == stroke.rim.value else side
            self._write(painter, QRectF(low.left(), low.bottom() + 2, low.width(), 28), words, align)

    def _draw_mark(self, painter: QPainter, mark: Mark, area: QRectF) -> None:
        scale = min(area.width() / mark.width_mm, area.height() * 0.7 / mark.height_mm) * 0.85
        painter.save()
        if self.arranged is not None:  # white lines show on skin, not on a white card
            ground = QRectF(0, 0, area.width(), area.height() * 0.8)
            ground.moveCenter(area.center())
            painter.setBrush(QColor(*skin_bytes(self.arranged.design.work.plan.skin)))
            painter.setPen(Qt.PenStyle.NoPen)
            painter.drawRoundedRect(ground, 8, 8)
        painter.translate(area.center())
        painter.scale(scale, scale)
        painter.setPen(Qt.PenStyle.NoPen)
        painter.translate(-mark.x_mm, -mark.y_mm)
        draw_mark(QtSurface(painter, QTransform(), scale), mark)
        painter.restore()
        self._write(painter, QRectF(area.left(), area.bottom() - 28, area.width(), 28), mark.name)

    def _write(
        self, painter: QPainter, box: QRectF, words: str, align: Qt.AlignmentFlag = Qt.AlignmentFlag.AlignHCenter
    ) -> None:
        font = QFont(painter.font())
        font.setPixelSize(22)
        painter.setFont(font)
        painter.setPen(QColor(theme().ink))
        painter.drawText(box, align | Qt.AlignmentFlag.AlignVCenter, words)


class PlacePicture(CardPicture):
    """Where it goes: the place from near, as painted after the step, its strokes numbered; or the stroke itself."""

    def __init__(self) -> None:
        super().__init__(phrase("Where it goes"))
        self.pictures: Mapping[str, Picture] = {}
        self.after: dict[str, Picture] = {}
        self._done: set[str] = set()

    def show_step(self, step: Step | None, run: Run) -> None:
        """Show the place of a step's job."""
        self._job = step.job if step is not None else ""
        self._done = {one.step for one in run.took if not one.skipped}
        self.update()

    @painted
    def paintEvent(self, painter: QPainter, event: QPaintEvent) -> None:
        """Draw it."""
        self._begin(painter)
        job = self.job
        if self.arranged is None or not self.arranged.jobs:  # all was taken out of the plan since
            return
        area = QRectF(self.rect()).adjusted(16, 14, -16, -14)
        key = job.chart if job is not None else self.arranged.jobs[-1].chart
        if key == SKIN:
            self._draw_alone(painter, area)
        else:
            self._draw_chart(painter, area, self.arranged, key)

    def to_play(self) -> Plan | None:
        """Return a plan of just the strokes of the step on the card; None where it pulls none."""
        job = self.job
        if self.arranged is None or job is None or not job.strokes:
            return None
        plan = dict(self.arranged.design.work.painted).get(job.chart, self.arranged.design.work.plan)
        here = tuple(one for one in plan.strokes if one.id in set(job.strokes))
        known = {one.id for one in here}
        loaded = tuple(one if one.recipe.after in known else loaded_itself(plan, one) for one in here)
        return replace(plan, strokes=loaded) if loaded else None

    def _draw_chart(self, painter: QPainter, area: QRectF, arranged: Arranged, key: str) -> None:
        """Draw where the brush goes, as painted after this step: its strokes strong and numbered, later ones faint."""
        plan = arranged.design.work.plan
        chart, skin = chart_of(plan, key), QColor(*skin_bytes(plan.skin))
        laid = dict(arranged.design.work.painted).get(key)
        view = self._close(chart, laid, area)
        painter.save()
        painter.setClipRect(area)
        picture = self.after.get(self._job)
        if picture is None:
            surface = surface_of(painter, view)
            draw_skin(surface, chart, ink_of(skin))
            draw_features(surface, chart, ink_of(skin))
            draw_contours(surface, chart, ink_of(skin))
        else:
            left, top, right, bottom = sides_of(chart)
            place = QRectF(left, top, right - left, bottom - top)
            painter.drawImage(view.transform.mapRect(place), to_image(picture))
        painter.setTransform(view.transform, combine=True)
        painter.setBrush(Qt.BrushStyle.NoBrush)
        if laid is not None:
            self._draw_ways(painter, arranged, key, laid)
        self._draw_mark_place(painter)
        painter.restore()
        if laid is not None:
            self._draw_numbers(painter, view, laid)

    def _close(self, chart: Chart, laid: Plan | None, area: QRectF) -> ChartView:
        """Return the view of where this step goes, never closer than a hand's breadth."""
        points = [point for name in self._strokes_here(laid) for point in _way_of(laid, name)]
        if self.mark is not None:
            points = [(self.mark.x_mm, self.mark.y_mm)]
        if not points:
            return view_of(chart, area)
        xs, ys = zip(*points, strict=True)
        scale = min(
            area.width() / max(1.5 * (max(xs) - min(xs)), _CLOSEST_MM),
            area.height() / max(1.5 * (max(ys) - min(ys)), _CLOSEST_MM),
        )
        x, y = (max(xs) + min(xs)) / 2, (max(ys) + min(ys)) / 2
        return ChartView(scale, area.center().x() - x * scale, area.center().y() - y * scale)

    def _strokes_here(self, laid: Plan | None) -> tuple[str, ...]:
        job = self.job
        return job.strokes if job is not None and laid is not None else ()

    def _draw_ways(self, painter: QPainter, arranged: Arranged, key: str, laid: Plan) -> None:
        """Draw the ways of this step strong, and of what is still to come faint."""
        for one in arranged.jobs:
            here = one.id == self._job
            if one.chart != key or not (here or one.id not in self._done):
                continue
            colour = QColor(theme().accent if here else theme().ink_2)
            colour.setAlpha(255 if here else 70)
            pen = QPen(colour, 2.4 if here else 1.0)
            pen.setCosmetic(True)
            painter.setPen(pen)
            for name in one.strokes:
                painter.drawPath(outline_of(laid.stroke(name).stroke.path))

    def _draw_mark_place(self, painter: QPainter) -> None:
        """Draw where glitter, a stencil or a gem of this step goes."""
        if self.mark is None:
            return
        glitter = isinstance(self.mark, Glitter)
        pen = QPen(QColor(theme().accent), 4, Qt.PenStyle.DashLine if glitter else Qt.PenStyle.SolidLine)
        pen.setCosmetic(True)
        painter.setPen(pen)
        if isinstance(self.mark, Glitter):
            middle = QPointF(self.mark.x_mm, self.mark.y_mm)
            painter.drawEllipse(middle, self.mark.width_mm / 2, self.mark.height_mm / 2)
        else:
            for path in paths_of(self.mark):
                painter.drawPath(outline_of(path))

    def _draw_numbers(self, painter: QPainter, view: ChartView, laid: Plan) -> None:
        """Number the strokes of this step in the middle of what each covers, if there are several, not too many."""
        names = self._strokes_here(laid)
        if not 1 < len(names) <= _MOST_NUMBERS:
            return
        for number, name in enumerate(names, 1):
            at = view.to_px(*_middle_of(laid, name))
            painter.setPen(QPen(QColor(theme().mat), 1.5))
            painter.setBrush(QColor(theme().accent))
            painter.drawEllipse(at, 10, 10)
            painter.setPen(QColor(theme().mat))
            painter.drawText(QRectF(at.x() - 10, at.y() - 10, 20, 20), Qt.AlignmentFlag.AlignCenter, str(number))

    def _draw_alone(self, painter: QPainter, area: QRectF) -> None:
        picture = self.pictures.get(self._job)
        if picture is None:
            return
        rows, columns, _ = picture.shape
        image = to_image(picture)
        scale = min(area.width() / columns, area.height() / rows, 4.0)
        box = QRectF(0, 0, columns * scale, rows * scale)
        box.moveCenter(area.center())
        painter.drawImage(box, image)
