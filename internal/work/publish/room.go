package publish

import (
	"ojime/internal/say"
)

// roomRows are the readings of the rooms of prints, also those taken back.
func roomRows(of published) [][]string {
	out := [][]string{{"run", "at", "moment", "room_temp_c", "humidity_pct", "resin_temp_c", "heater_on", "told_by", "note", "taken_back", "taken_back_why"}}
	for _, s := range of.sheets {
		for _, r := range s.RoomReadings {
			back := ""
			if r.TakenBackMS != nil {
				back = say.Instant(*r.TakenBackMS)
			}
			out = append(out, []string{s.Run.Code, say.Instant(r.AtMS), r.Moment, num(r.RoomTempC), num(r.HumidityPct), num(r.ResinTempC), truth(r.HeaterOn), toldBy(r.DeviceID != nil), r.Note, back, r.TakenBackWhy})
		}
	}
	return out
}

func toldBy(device bool) string {
	if device {
		return "device"
	}
	return "typed"
}
