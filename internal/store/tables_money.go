package store

import (
	"ojime/internal/bench"
	"ojime/internal/store/db"
)

// SavePrice appends a price, or takes it back.
func (t *Tx) SavePrice(v bench.Price) error {
	return saved("price", t.q.SavePrice(t.ctx, db.SavePriceParams(v)))
}

// Prices lists every price in its order, also those taken back.
func (t *Tx) Prices() ([]bench.Price, error) {
	rows, err := t.q.Prices(t.ctx)
	return list("prices", rows, err, func(r db.Price) bench.Price { return bench.Price(r) })
}

// SaveEquipment appends a word on an item of equipment.
func (t *Tx) SaveEquipment(v bench.Equipment) error {
	return saved("equipment", t.q.SaveEquipment(t.ctx, db.SaveEquipmentParams(v)))
}

// Equipments lists every word on equipment in its order.
func (t *Tx) Equipments() ([]bench.Equipment, error) {
	rows, err := t.q.Equipments(t.ctx)
	return list("equipment", rows, err, func(r db.Equipment) bench.Equipment { return bench.Equipment(r) })
}

// SaveBudget writes how an owner is taken to use a machine of a review.
func (t *Tx) SaveBudget(v bench.Budget) error {
	return saved("budget", t.q.SaveBudget(t.ctx, db.SaveBudgetParams(v)))
}

// Budgets lists every budget.
func (t *Tx) Budgets() ([]bench.Budget, error) {
	rows, err := t.q.Budgets(t.ctx)
	return list("budgets", rows, err, func(r db.Budget) bench.Budget { return bench.Budget(r) })
}
