//! What people keep in C++: templates, and what they ask for.

use super::Case;

pub(super) const KEPT: &[Case] = &[
    ("what a template requires, further in or not, and what is said of a branch", "cpp", &[], "\
template <typename Reading>
concept Level = requires(Reading a, Reading b) {
    { a + b } -> std::convertible_to<Reading>;
    { a.metres() } noexcept -> std::same_as<double>;
    { a-- };
    typename Reading::unit;
    requires sizeof(Reading) > 1;
};

template <typename Reading>
concept Tide = Level<Reading>
    && std::copyable<Reading>;

template <typename Reading>
    requires std::integral<Reading> || std::floating_point<Reading>
auto mean(Reading low, Reading high) -> Reading {
    if constexpr (requires { low.metres(); }) {
        return low;
    } else if constexpr (sizeof(Reading) > 2) {
        return high;
    } else if !consteval {
        warn();
    }
    return low;
}

template <typename Reading>
    requires requires(Reading reading) {
        { reading.size() } -> std::same_as<int>;
        reading.run();
    }
void store(Reading reading) {
    if (auto at = find(reading)) [[likely]] {
        use(at);
    } else [[unlikely]] {
        warn();
    }
    switch (reading.zone()) {
    [[likely]] case 1:
        use(reading);
        break;
    [[unlikely]] default:
        break;
    }
    co_return co_await reading;
}

struct Gauge {
    template <typename Reading>
        requires(!std::same_as<Reading, Gauge>)
    explicit Gauge(Reading reading) : reading_(reading) {
    }

    template <typename Reading>
    requires Level<Reading> && (sizeof(Reading) > 1)
    void add(Reading reading);

    constexpr bool empty() const
        requires Level<Zero>
    {
        return zero() == 0;
    }
};
"),
    ("macros with a blank line below them, and handlers of a whole function", "cpp", &[], "\
namespace tide {

TIDE_BEGIN

inline Level mean(Level low, Level high) {
    return high;
}

TIDE_END

}

int read() try {
    return 1;
}
catch (...) {
    return 0;
}
"),
    ("what a template declares further in than its parameters", "cpp", &[], "\
namespace tide
{
  inline Level*
  first(Level* levels, int number) noexcept
  {
    if (number < 1)
      return nullptr;
    return levels;
  }

  template<int Number, class Reading>
    [[nodiscard]]
    constexpr Reading*
    last(Reading* readings) noexcept
    {
      static_assert(Number > 0);
      return readings + Number;
    }

  template<typename Reading>
    struct Gauge
    {
      Reading zero;
    };

  template<typename Reading>
    void store(Reading&);

  inline void
  warn(Level* level) noexcept
  {
    send(level);
  }
}
"),
    ("a name below a result with arguments, and parameters below it", "cpp", &[], "\
struct Reader {
    template <typename Reading>
    constexpr std::conditional_t<is_level<Reading>,
                                 Level,
                                 Reading>
    read(Reading& reading, int zone);

    friend constexpr bool
    operator==(Reader const& low, Reader const& high);
};
"),
];
