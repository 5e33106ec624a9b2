"""The stations in working order, one line each."""

from uranograph.bench import words
from uranograph.bench.station import Order
from uranograph.engine import messages as engine_messages
from uranograph.phase import marks_messages, move_messages
from uranograph.phase import messages as phase_messages
from uranograph.stations.adjust.station import STATION as ADJUST
from uranograph.stations.backlash.station import STATION as BACKLASH
from uranograph.stations.by_eye.station import STATION as BY_EYE
from uranograph.stations.card.station import STATION as CARD
from uranograph.stations.change_plan.station import STATION as CHANGE_PLAN
from uranograph.stations.clearance.station import STATION as CLEARANCE
from uranograph.stations.complaint.station import STATION as COMPLAINT
from uranograph.stations.degree.station import STATION as DEGREE
from uranograph.stations.diagnosis.page import PAGE as DIAGNOSIS
from uranograph.stations.drive_choice.station import STATION as DRIVE_CHOICE
from uranograph.stations.end_play.station import STATION as END_PLAY
from uranograph.stations.engine.station import STATION as ENGINE
from uranograph.stations.gear_fit.station import STATION as GEAR_FIT
from uranograph.stations.gear_train.station import STATION as GEAR_TRAIN
from uranograph.stations.lash.station import STATION as LASH
from uranograph.stations.lobe_room.station import STATION as LOBE_ROOM
from uranograph.stations.lock_up.station import STATION as LOCK_UP
from uranograph.stations.marks.station import STATION as MARKS
from uranograph.stations.runout.station import STATION as RUNOUT
from uranograph.stations.setting.station import STATION as SETTING
from uranograph.stations.sprocket_line.station import STATION as SPROCKET_LINE
from uranograph.stations.true_tdc.station import STATION as TRUE_TDC
from uranograph.stations.turn_over.station import STATION as TURN_OVER
from uranograph.stations.ways import FORM, WAYS
from uranograph.stations.wheel.station import STATION as WHEEL

for table in (engine_messages.REFUSALS, phase_messages.REFUSALS, marks_messages.REFUSALS, move_messages.REFUSALS):
    words.refusals(table)
ORDER = Order(
    (
        ENGINE,
        COMPLAINT,
        CARD,
        CHANGE_PLAN,
        RUNOUT,
        DRIVE_CHOICE,
        END_PLAY,
        SETTING,
        GEAR_FIT,
        LOBE_ROOM,
        BY_EYE,
        GEAR_TRAIN,
        MARKS,
        BACKLASH,
        SPROCKET_LINE,
        WHEEL,
        TRUE_TDC,
        DEGREE,
        ADJUST,
        CLEARANCE,
        TURN_OVER,
        LASH,
        LOCK_UP,
    ),
    alone={"diagnosis": DIAGNOSIS},
    ways=WAYS,
    way_form=FORM,
)
