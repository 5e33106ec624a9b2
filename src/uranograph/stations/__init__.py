"""The stations in working order, one line each."""

from uranograph.bench.station import Order
from uranograph.stations.adjust.index import STATION as ADJUST
from uranograph.stations.backlash.index import STATION as BACKLASH
from uranograph.stations.by_eye.index import STATION as BY_EYE
from uranograph.stations.card.index import STATION as CARD
from uranograph.stations.change_plan.index import STATION as CHANGE_PLAN
from uranograph.stations.clearance.index import STATION as CLEARANCE
from uranograph.stations.complaint.index import STATION as COMPLAINT
from uranograph.stations.degree.index import STATION as DEGREE
from uranograph.stations.diagnosis.index import PAGE as DIAGNOSIS
from uranograph.stations.drive_choice.index import STATION as DRIVE_CHOICE
from uranograph.stations.end_play.index import STATION as END_PLAY
from uranograph.stations.engine.index import STATION as ENGINE
from uranograph.stations.gear_fit.index import STATION as GEAR_FIT
from uranograph.stations.gear_train.index import STATION as GEAR_TRAIN
from uranograph.stations.lash.index import STATION as LASH
from uranograph.stations.lobe_room.index import STATION as LOBE_ROOM
from uranograph.stations.lock_up.index import STATION as LOCK_UP
from uranograph.stations.marks.index import STATION as MARKS
from uranograph.stations.runout.index import STATION as RUNOUT
from uranograph.stations.setting.index import STATION as SETTING
from uranograph.stations.sprocket_line.index import STATION as SPROCKET_LINE
from uranograph.stations.true_tdc.index import STATION as TRUE_TDC
from uranograph.stations.turn_over.index import STATION as TURN_OVER
from uranograph.stations.ways import FORM, WAYS
from uranograph.stations.wheel.index import STATION as WHEEL

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
