package feed

import (
	"ojime/internal/bench"
	"ojime/internal/core/machine"
)

// warm keeps what a device told of a print's room: of the resin by the printer, of the room by a
// thermometer. The first word is kept, and each that tells something new.
func (in *intake) warm(m bench.DeviceMessage, out *Received) error {
	runs, err := in.t.OpenRuns()
	if err != nil {
		return err
	}
	for _, r := range runs {
		aside := in.device.MachineID != nil && r.MachineID != *in.device.MachineID
		if aside || (in.device.StandIn && r.SpeedUp == nil) { // a stand-in measures nothing of a real print
			continue
		}
		events, err := in.t.EventsOfRun(r.ID)
		if err != nil {
			return err
		}
		if state := bench.StateOf(r, events); state != bench.Printing && state != bench.Paused {
			continue
		}
		if in.device.Kind == "printer" {
			if err := in.feedTemperature(r.ID, *m.Value); err != nil {
				return err
			}
		}
		kept, err := in.keepRoom(r, m)
		if err != nil {
			return err
		}
		out.Changed = out.Changed || kept
	}
	return nil
}

// keepRoom appends a reading of a print's room unless the device told nearly the same shortly before.
func (in *intake) keepRoom(r bench.Run, m bench.DeviceMessage) (bool, error) {
	reading := bench.RoomReading{AtMS: in.w.NowMS(), Moment: "during", DeviceID: &in.device.ID}
	of := func(r bench.RoomReading) *float64 { return r.RoomTempC }
	switch {
	case m.Unit == "pct":
		reading.HumidityPct, of = m.Value, func(r bench.RoomReading) *float64 { return r.HumidityPct }
	case in.device.Kind == "printer":
		reading.ResinTempC, of = m.Value, func(r bench.RoomReading) *float64 { return r.ResinTempC }
	default:
		reading.RoomTempC = m.Value
	}
	readings, err := in.t.RoomReadingsOfRuns([]string{r.ID})
	if err != nil {
		return false, err
	}
	var last *machine.RoomReading
	for _, v := range readings[r.ID] {
		if v.DeviceID != nil && *v.DeviceID == in.device.ID && of(v) != nil {
			read := v.Read()
			last = &read
		}
	}
	if last == nil && reading.AtMS-r.StartedMS <= machine.StartMS {
		reading.Moment = "start"
	}
	if last != nil && !machine.RoomNews(*last, reading.Read()) {
		return false, nil
	}
	return true, in.w.Printing.KeepRoom(in.t, r, reading)
}
