package exposure

import (
	"math"
	"testing"

	"ojime/internal/core/quantity"
)

func TestATransferToAnotherResinIsBorrowedTwice(t *testing.T) {
	first, err := Transfer(TransferInput{ExposureS: 2, FromIrradianceMWCM2: quantity.Ptr(4.0), ToIrradianceMWCM2: quantity.Ptr(2.0)})
	if err != nil {
		t.Fatal(err)
	}
	// By two machines, on which the other resin needs 1.2 and 1.875 times as long: 1.5 in the geometric mean.
	got, err := ForAnotherResin(first, []SharedPair{{FromS: 2, ToS: 2.4}, {FromS: 1.6, ToS: 3}})
	if err != nil || math.Abs(got.ExposureS-6) > 1e-9 || math.Abs(got.Factor-3) > 1e-9 || math.Abs(got.FromS-6*0.64) > 1e-9 || math.Abs(got.ToS-6*1.44) > 1e-9 {
		t.Errorf("%+v, %v", got, err)
	}
	if !got.Has("another_resin") || !got.Has("borrowed") || got.Has("one_machine") {
		t.Errorf("warnings %+v", got.Warnings)
	}
	if one, _ := ForAnotherResin(first, []SharedPair{{FromS: 2, ToS: 3}}); !one.Has("one_machine") {
		t.Errorf("of one machine: %+v", one.Warnings)
	}
	if _, err := ForAnotherResin(first, nil); err == nil {
		t.Error("without a machine that has both")
	}
	if _, err := ForAnotherResin(first, []SharedPair{{FromS: 2, ToS: 0}}); err == nil {
		t.Error("an exposure of nothing was taken")
	}
}
