#include "Station.hpp"

#include <algorithm>
#include <vector>

namespace tidewatch {

#pragma region Readings
template <typename Level>
class Station : public Listener {
public:
    explicit Station(std::string name) : name_(std::move(name)), levels_{} {}

    void record(Level level) override {
        levels_.push_back(level);
        if (level > highest_) { highest_ = level; notify([this](Listener& other) {
                other.raised(name_, highest_);
            });
        }
    }

    Level median() const;
private:
    std::string name_;
    std::vector<Level> levels_;
    Level highest_ = Level{};
};
#pragma endregion

template <typename Level>
Level Station<Level>::median() const
{
    auto sorted = levels_;
    std::sort(sorted.begin(), sorted.end());
    return sorted.empty() ? Level{} : sorted[sorted.size() / 2];
}

} // namespace tidewatch
