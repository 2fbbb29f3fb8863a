//! What people keep that ends in columns.

use super::Case;

pub(super) const KEPT: &[Case] = &[
    ("brackets of rows, single blanks in front of most of them", "c", &[], "\
static const struct mode modes[] = {
    MODE(\"even\",   combination, 0,     0 )
    MODE(\"odd\",    combination, 0,     0 )
#if SPRING
    MODE(\"spring\", control,     SPR,   0 )
#endif
    MODE(\"neap\",   control,     0,     10)
    MODE(\"slack\",  control,     0,     0 )
};
"),
    ("commas of rows among directives", "c", &[], "\
static const struct command commands[] = {
    { \"low\"     , read_low  },
#if SPRING
    { \"spring\"  , read_it   },
#endif
    { \"highest\" , read_all  },
    { \"higher\"  , read_all  },
#if SLACK
    { \"slackly\" , read_it   },
#endif
    { \"high\"    , read_high },
#if NEAP
    { \"neaptide\", read_neap },
#endif
};
"),
    ("colons of pairs", "json", &[], "\
{
  \"low\"    : 1,
  \"spring\" : 2,
  \"neap\"   : 3
}
"),
    ("blanks in front of the colons of pairs", "json", &[], "\
{
  \"low\" : 1,
  \"tide\" : {
    \"spring\" : 2
  }
}
"),
    ("columns of pairs where others have none", "javascript", &[], "\
warn({
  level    : 1,
  hour     : 2,
  wideZone : 3
})
warn({ level: 1, hour: 2 })
warn({ level: 1, hour: 2 })
warn({ level: 1, hour: 2 })
warn({ level: 1, hour: 2 })
warn({ level: 1, hour: 2 })
"),
];
