//! What people keep whose lines begin with what parts their items.

use super::Case;

pub(super) const KEPT: &[Case] = &[
    ("commas that lead lines", "javascript", &[], "\
var read = require('read')
  , warn = require('warn')

function Gauge(options) {
  var self = this
    , level = options.level
    , tide = { low: 1
             , high: 2
             }

  this.options = {
      level: level
    , tide: tide
    , read: function () {
        return level
      }
    , stop: function () {
        return tide
      }
  }

  warn('level', {
      station: 'a'
    , level: 2
  }, function (error) {
    if (error) throw error
  })
  warn( read(level)
      , tide
      , self )

  return [ level
         , tide
         ]
}

module.exports = {
  low: low
, high: high
, read: function () {
    return 1
  }
}

module.gauges =
  { low: low
  , high: high
  }
"),
    ("clauses of loops led by semicolons", "javascript", &[], "\
for (var hour = first
    ; hour < last && !levels[hour]
    ; hour++) {
  read(hour)
}
"),
    ("items behind directives", "c", &[], "\
static const char *const names[] = {
    \"low\",
    \"high\"
#if SPRING
    , \"spring\"
    , \"neap\"
#endif
};
"),
    ("a comma in front of parameters", "c", &[], "\
int read(int level
       , int hour
       , int zone) {
    return level;
}

int warn(int level) {
    return level;
}

int calm(int level) {
    return level;
}
"),
];
