// Package measure answers: what size must it be on the model, is the kit right,
// what is it cut, twisted, drilled or measured from?
//
// Terms. A dimension is a named size of the vehicle with what the kit gives for
// it; the size sheet lists them. The kit check finds the scale that the kit really
// has and names the sizes that do not fit it. Stock is strip, rod, sheet, tube,
// wire, thread, mesh, drills and tape; the shelf is what one workshop changed in
// the table and owns. A cable is a path of points. The photo rule measures in the
// plane of a known length or a known rectangle on a photograph.
//
// Sizes on the model are length.Model, sizes of the vehicle length.Real, both in
// millimetres. Uncertainties are standard deviations unless a name says otherwise.
// Tables hold sizes only.
package measure
